import type { DeckStore } from "../document/deck-store";
import type { CalledMark } from "../rules/marks";
import type { DeckOperation } from "../scope";

interface Row extends CalledMark {
  outing: string;
  spoiled: boolean;
}
/** The batch that the tag came out of, for it to go back there. */
type Shown = { batch: string };

const kind: DeckOperation<Row, Shown> = {
  kind: "tag.spoil",
  apply: (deck, { row: { kind: of, number, spoiled }, shown }) => {
    const stock = deck.marks.stock.filter((tag) => tag.kind !== of || tag.number !== number);
    const back = { kind: of, number, batch: shown?.batch ?? "" };
    return { ...deck, marks: { ...deck.marks, stock: spoiled ? stock : [...stock, back] } };
  },
  describe: ({ row }) => `tag ${row.number} ${row.spoiled ? "spoiled" : "usable after all"}`,
  subject: ({ row }) => row.number,
};
export default kind;

/** A tag was damaged before use and leaves the stock, or is usable after all. */
export function spoilTag(store: DeckStore, tag: CalledMark & Shown, spoiled: boolean): Promise<void> {
  const row = { outing: store.view.document.outing.id, kind: tag.kind, number: tag.number, spoiled };
  return store.add({ kind: kind.kind, row, shown: { batch: tag.batch } });
}
