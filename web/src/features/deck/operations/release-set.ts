import { plural } from "@/ui/words/format";
import type { DeckStore } from "../document/deck-store";
import { LEAVING_WORDS, type Leaving, leavingWords, leftAs } from "../rules/leaving";
import type { DeckOperation } from "../scope";

interface Row extends Leaving {
  captures: string[];
  /** How it was said by a version of before; such an entry is sent as it was made. */
  code?: string | null;
}

const leavingOf = ({ captures: _, code, ...leaving }: Row): Leaving =>
  code === undefined ? leaving : code === null ? { fate: null } : (LEAVING_WORDS[code] ?? { fate: "released" });

const kind: DeckOperation<Row> = {
  kind: "release.set",
  apply: (deck, { row }) => {
    const left = new Set(row.captures);
    const leaving = leavingOf(row);
    return {
      ...deck,
      captures: deck.captures.map((each) => (left.has(each.id) ? leftAs(each, leaving) : each)),
    };
  },
  describe: ({ row }) => {
    const leaving = leavingOf(row);
    const words =
      leaving.fate === undefined
        ? "more on how they left"
        : leavingWords({ protocol: { number: 0, values: {} } }, leaving);
    return `${plural(row.captures.length, "entry", "entries")} ${words}`;
  },
  subject: ({ id }) => id,
};
export default kind;

/** Says how fish left the boat, or with a fate of null that they are aboard; without a fate only what is told changes. */
export function releaseFish(store: DeckStore, captures: string[], leaving: Leaving): Promise<void> {
  return store.add({ kind: kind.kind, row: { captures, ...leaving } });
}
