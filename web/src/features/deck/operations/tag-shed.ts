import { markText } from "@/ui/words/mark-text";
import type { DeckStore } from "../document/deck-store";
import type { CalledMark } from "../rules/marks";
import type { DeckOperation } from "../scope";

interface Row extends CalledMark {
  capture: string;
  shed: boolean;
}

const kind: DeckOperation<Row, { fish: string }> = {
  kind: "tag.shed",
  apply: (deck, { row: { kind: of, number, shed }, shown }) => {
    const fish = deck.marks.fish.map((each) => {
      if (each.id !== shown?.fish) return each;
      const others = each.marks.filter((mark) => mark.kind !== of || mark.number !== number);
      return { ...each, marks: shed ? others : [...others, { kind: of, number, unknown: false }] };
    });
    return { ...deck, marks: { ...deck.marks, fish } };
  },
  describe: ({ row }) => `tag ${markText(row)} ${row.shed ? "is lost" : "is on it after all"}`,
  subject: ({ row }) => row.capture,
};
export default kind;

/** A known fish has lost a tag, or it was found on it after all. */
export function shedTag(
  store: DeckStore,
  capture: { id: string; fish: string },
  { kind: of, number }: CalledMark,
  shed: boolean,
): Promise<void> {
  return store.add({
    kind: kind.kind,
    row: { capture: capture.id, kind: of, number, shed },
    shown: { fish: capture.fish },
  });
}
