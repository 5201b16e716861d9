import { answer, api, type Schemas } from "@/api/client";
import { recall, remember } from "@/offline/database";

type Outing = Schemas["Outing"];

/** Outings of a programme from the server, or as last known where it gives no answer. */
export async function fetchOutings(programme: string): Promise<Outing[]> {
  const key = `outings-${programme}`;
  try {
    const outings = await answer(
      api.GET("/api/v1/programmes/{programme_id}/outings", { params: { path: { programme_id: programme } } }),
    );
    await remember(key, outings);
    return outings;
  } catch (failure) {
    const last = await recall<Outing[]>(key);
    if (failure instanceof TypeError && last) return last;
    throw failure;
  }
}
