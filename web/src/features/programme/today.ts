import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";
import { recall, remember } from "@/offline/database";

type Today = Schemas["Today"];

export function useToday(programme: string) {
  return useQuery({
    queryKey: ["today", programme],
    queryFn: () => fetchToday(programme),
    refetchInterval: 20_000,
  });
}

/** From the server, or as last known where it gives no answer. */
async function fetchToday(programme: string): Promise<Today> {
  const key = `today-${programme}`;
  try {
    const today = await answer(
      api.GET("/api/v1/programmes/{programme_id}/today", { params: { path: { programme_id: programme } } }),
    );
    await remember(key, today);
    return today;
  } catch (failure) {
    const last = await recall<Today>(key);
    if (failure instanceof TypeError && last) return last;
    throw failure;
  }
}
