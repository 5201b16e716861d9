import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";
import type { OperationKind } from "@/offline/operation";
import { put } from "@/offline/rows";
import { gearOf } from "@/ui/gears";
import type { DeckStore } from "../deck-store";

type Run = Schemas["Run"];

const kind: OperationKind<Record<string, unknown>, Run> = {
  kind: "run.start",
  apply: (deck, { shown }) => ({ ...deck, runs: put(deck.runs, shown) }),
  describe: ({ shown }) => `start of run ${shown?.number ?? ""}`,
  subject: ({ id }) => id,
};
export default kind;

export type RunSettings = Pick<
  Run,
  "volts" | "amps" | "pulse_hz" | "pulse_width_ms" | "distance_m" | "rods" | "nets" | "mesh_mm" | "hauls" | "direction"
>;

export function startRun(store: DeckStore, site: string, gear: Run["gear"], settings: RunSettings): Promise<void> {
  const { outing, runs } = store.view.deck;
  const id = uuidv7();
  const started_at = store.now();
  const number = Math.max(0, ...runs.map((run) => run.number)) + 1;
  return store.add({
    id,
    kind: kind.kind,
    row: { outing: outing.id, site, gear, started_at, ...settings },
    shown: {
      id,
      outing: outing.id,
      site,
      gear,
      number,
      current_on_s: 0,
      started_at,
      ended_at: null,
      effort: { value: null, unit: gearOf(gear).effort },
      ...settings,
    },
  });
}
