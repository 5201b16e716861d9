import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

type Reading = Schemas["WaterReading"];

const kind: DeckOperation<Record<string, unknown>, Reading> = {
  kind: "water.record",
  apply: (deck, { shown }) => ({ ...deck, water_readings: put(deck.water_readings, shown) }),
  describe: () => "water reading",
  subject: ({ id }) => id,
};
export default kind;

/** What was read, by code; null where a figure is taken away. */
export type ReadFigures = Record<string, number | string | null>;

/** Readings that a row has a place of its own for; all others stand in `more`. */
const OWN = ["temperature_c", "ambient_us_cm", "specific_us_cm", "oxygen_mg_l", "secchi_m"] as const;

export function recordWater(store: DeckStore, figures: ReadFigures, run: string | null = null): Promise<void> {
  const id = uuidv7();
  const outing = store.view.document.outing.id;
  const row = { outing, ...(run ? { run } : {}), ...figures };
  const none = Object.fromEntries(OWN.map((name) => [name, null])) as Pick<Reading, (typeof OWN)[number]>;
  const shown = readAs({ id, outing, run, device_time: store.now(), ...none, more: {} }, figures);
  return store.add({ id, kind: kind.kind, row, shown });
}

/** A reading once these figures are said of it; all others stay. */
export function readAs(reading: Reading, figures: ReadFigures): Reading {
  const own = Object.entries(figures).filter(([name]) => OWN.includes(name as never));
  const others = Object.entries(figures).filter(([name]) => !OWN.includes(name as never));
  const more = Object.fromEntries(
    Object.entries({ ...reading.more, ...Object.fromEntries(others) }).filter(([, value]) => value !== null),
  ) as Reading["more"];
  return { ...reading, ...Object.fromEntries(own), more };
}

/** What a reading says, by code. */
export function figuresOf({ more, ...reading }: Reading): ReadFigures {
  return { ...Object.fromEntries(OWN.map((name) => [name, reading[name]])), ...more };
}
