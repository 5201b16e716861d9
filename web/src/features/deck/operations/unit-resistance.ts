import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

interface Row {
  unit: string;
  r100_ohm: number;
}

const kind: DeckOperation<Row> = {
  kind: "unit.resistance",
  apply: (deck, { row: { unit, r100_ohm } }) => {
    const { orders } = deck;
    if (orders?.electro?.unit?.id !== unit) return deck;
    // the table of settings is the server's to compute anew; it comes with the next answer
    const electro = { ...orders.electro, unit: { ...orders.electro.unit, r100_ohm } };
    return { ...deck, orders: { ...orders, electro } };
  },
  describe: ({ row }) => `resistance of the control box, ${row.r100_ohm} Ω`,
  subject: ({ row }) => row.unit,
};
export default kind;

/** The resistance at 100 µS/cm as it was read on the water goes back into the control box. */
export function setResistance(store: DeckStore, unit: string, r100_ohm: number): Promise<void> {
  return store.add({ kind: kind.kind, row: { unit, r100_ohm } });
}
