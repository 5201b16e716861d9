import { markText } from "@/ui/words/mark-text";
import type { DeckStore } from "../document/deck-store";
import type { CalledMark } from "../rules/marks";
import type { DeckOperation } from "../scope";

/** As the server names the batch of tags that were read before anybody entered them. */
const READ_ON_DECK = "Taken in on the Deck";

const kind: DeckOperation<CalledMark> = {
  kind: "tag.take_in",
  apply: (deck, { row: { kind: of, number } }) => {
    const others = deck.marks.stock.filter((tag) => tag.kind !== of || tag.number !== number);
    return { ...deck, marks: { ...deck.marks, stock: [...others, { kind: of, number, batch: READ_ON_DECK }] } };
  },
  describe: ({ row }) => `tag ${markText(row)} into the stock`,
  subject: ({ row }) => row.number,
};
export default kind;

/** A tag that nobody has entered is one of the programme's own. */
export function takeTagIn(store: DeckStore, { kind: of, number }: CalledMark): Promise<void> {
  return store.add({ kind: kind.kind, row: { kind: of, number } });
}
