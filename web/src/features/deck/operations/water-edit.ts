import type { Schemas } from "@/api/schemas";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";
import { type ReadFigures, readAs } from "./water-record";

type Reading = Schemas["WaterReading"];
type Row = { reading: string; deleted?: boolean } & ReadFigures;

const kind: DeckOperation<Row, Reading> = {
  kind: "water.edit",
  apply: (deck, { row: { reading, deleted, ...figures }, shown }) => {
    if (deleted) return { ...deck, water_readings: deck.water_readings.filter(({ id }) => id !== reading) };
    const there = deck.water_readings.find(({ id }) => id === reading) ?? shown;
    return there ? { ...deck, water_readings: put(deck.water_readings, readAs(there, figures)) } : deck;
  },
  describe: ({ row }) => (row.deleted ? "water reading taken out" : "correction of a water reading"),
  subject: ({ row }) => row.reading,
};
export default kind;

/** Corrects a reading: only what is told changes. */
export function editWater(store: DeckStore, reading: string, figures: ReadFigures): Promise<void> {
  return store.add({ kind: kind.kind, row: { reading, ...figures } });
}

/** Takes a reading out, or puts it back. */
export function takeOutWater(store: DeckStore, reading: Reading, deleted: boolean): Promise<void> {
  return store.add({ kind: kind.kind, row: { reading: reading.id, deleted }, shown: reading });
}
