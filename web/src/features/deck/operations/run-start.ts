import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";
import { put } from "@/offline/rows";
import { type FigureCode, gearOf } from "@/ui/words/gears";
import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

type Run = Schemas["Run"];

const kind: DeckOperation<Record<string, unknown>, Run> = {
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

/** What a gear has of the settings that stand on the sheet: those of the run before may be another gear's. */
function ofGear(
  code: Run["gear"],
  { volts, amps, pulse_hz, pulse_width_ms, direction, ...figures }: RunSettings,
): RunSettings {
  const { electric, asks } = gearOf(code);
  const current = electric ? { volts, amps, pulse_hz, pulse_width_ms } : NO_CURRENT;
  const own = Object.entries(figures).map(([name, value]) => [name, asks.includes(name as FigureCode) ? value : null]);
  return { ...current, direction, ...(Object.fromEntries(own) as typeof figures) };
}

const NO_CURRENT = { volts: null, amps: null, pulse_hz: null, pulse_width_ms: null };

export function startRun(store: DeckStore, site: string, gear: Run["gear"], given: RunSettings): Promise<void> {
  const { outing, runs } = store.view.document;
  const id = uuidv7();
  const started_at = store.now();
  const settings = ofGear(gear, given);
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
