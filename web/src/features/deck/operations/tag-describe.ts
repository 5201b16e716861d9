import type { DeckStore } from "../document/deck-store";
import type { CalledMark } from "../rules/marks";
import type { DeckOperation } from "../scope";

interface Row extends CalledMark {
  capture: string;
  body_site?: string;
  quality?: string;
}

const kind: DeckOperation<Row> = {
  kind: "tag.describe",
  apply: (deck, { row: { capture, kind: of, number, ...details } }) => ({
    ...deck,
    captures: deck.captures.map((each) =>
      each.id === capture
        ? {
            ...each,
            placed: each.placed.map((tag) =>
              tag.kind === of && tag.number === number ? { ...tag, ...(details as Partial<typeof tag>) } : tag,
            ),
          }
        : each,
    ),
  }),
  describe: ({ row }) => `how tag ${row.number} sits`,
  subject: ({ row }) => row.capture,
};
export default kind;

/** Says where a tag sits, or how well; only what is told changes. */
export function describeTag(
  store: DeckStore,
  capture: string,
  { kind: of, number }: CalledMark,
  details: Pick<Row, "body_site" | "quality">,
): Promise<void> {
  return store.add({ kind: kind.kind, row: { capture, kind: of, number, ...details } });
}
