import { answer, api, type Schemas } from "@/api/client";
import { asText } from "./as-text";
import { clock } from "./clock";
import type { Operation } from "./operation";

export type Results = Schemas["OperationResult"][];

/**
 * What came of sending a batch. Only the server's own results say anything of an entry; everything else is the way there:
 *
 * - "no answer": nobody there, or somebody else answers (a gateway, a captive portal); try again later;
 * - "sign in", "other person": the server will not take them from whoever is signed in now;
 * - "stuck": something on the way refuses this very batch (too large, a word it does not like, a failure): try parts of it.
 */
export type Posted = { results: Results } | { way: "no answer" | "sign in" | "other person" | "stuck"; why: string };

export async function post(programme: string, person: string, batch: Operation[]): Promise<Posted> {
  const first = await tryPost(programme, person, batch);
  if (!("way" in first) || first.why !== "csrf") return first;
  // the cookie that says that the page is ours was lost: asking who is signed in sets it anew
  await answer(api.GET("/api/v1/session")).catch(() => null);
  return tryPost(programme, person, batch);
}

async function tryPost(programme_id: string, person: string, batch: Operation[]): Promise<Posted> {
  const whole = await Promise.all(batch.map(asText));
  const operations = whole.map(({ id, kind, device_time, clock_offset_s, reason, row, by }) => ({
    id,
    kind,
    device_time,
    row,
    ...(clock_offset_s === undefined ? {} : { clock_offset_s }),
    ...(reason ? { reason } : {}),
    ...(by ? { by } : {}),
  }));
  const body = { person, device_now: new Date().toISOString(), operations };
  try {
    const { data, error, response } = await api.POST("/api/v1/programmes/{programme_id}/sync", {
      params: { path: { programme_id } },
      body,
    });
    const told = (data ?? error) as Partial<Schemas["SyncRefused"]> | undefined;
    if (Array.isArray(told?.results)) {
      clock.compare(Date.parse(told.server_time ?? ""));
      return { results: told.results };
    }
    const why = told?.code ?? `status ${response.status}`;
    if (response.status === 401) return { way: "sign in", why };
    if (why === "other_person") return { way: "other person", why };
    const refusesUs = Boolean(told?.code) && [403, 404].includes(response.status);
    const absent = response.ok || [502, 503, 504].includes(response.status);
    return { way: refusesUs || absent ? "no answer" : "stuck", why };
  } catch (failure) {
    return { way: "no answer", why: String(failure) };
  }
}
