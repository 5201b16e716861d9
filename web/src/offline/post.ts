import { api, isOurs, type Schemas } from "@/api/client";
import { asText } from "./as-text";
import { clock } from "./clock";
import type { Operation } from "./operation";

export type Results = Schemas["OperationResult"][];

/**
 * What came of sending a batch. Only the server's own results say anything of an entry; everything else is the way there:
 *
 * - "no answer": nobody there, or somebody else answers (a gateway, a captive portal, in whatever shape); try again later;
 * - "sign in", "other person": the server will not take them from whoever is signed in now;
 * - "stuck": something on the way refuses this very batch (too large, a word it does not like, a failure): try parts of it.
 */
export type Posted = { results: Results } | { way: "no answer" | "sign in" | "other person" | "stuck"; why: string };

export async function post(programme_id: string, person: string, batch: Operation[]): Promise<Posted> {
  const whole = await Promise.all(batch.map(asText));
  const operations = whole.map(({ id, kind, device_time, clock_offset_s, reason, desk, row, by, carried }) => ({
    id,
    kind,
    device_time,
    ...(carried ? { carried, row: {} } : { row }),
    ...(clock_offset_s === undefined ? {} : { clock_offset_s }),
    ...(reason ? { reason } : {}),
    ...(desk ? { desk } : {}),
    ...(by ? { by } : {}),
  }));
  const began = Date.now();
  const body = { person, device_now: new Date(began).toISOString(), operations };
  try {
    const { data, error, response } = await api.POST("/api/v1/programmes/{programme_id}/sync", {
      params: { path: { programme_id } },
      body,
    });
    const told = (isOurs(response) ? (data ?? error) : undefined) as Partial<Schemas["SyncRefused"]> | undefined;
    if (Array.isArray(told?.results)) {
      clock.compare(told.server_time, began);
      return { results: told.results };
    }
    const why = told?.code ?? `status ${response.status}`;
    if (told && response.status === 401) return { way: "sign in", why };
    if (why === "other_person") return { way: "other person", why };
    const refusesUs = Boolean(told?.code) && [403, 404].includes(response.status);
    const absent = response.ok || [401, 407, 502, 503, 504, 511].includes(response.status);
    return { way: refusesUs || absent ? "no answer" : "stuck", why };
  } catch (failure) {
    return { way: "no answer", why: String(failure) };
  }
}
