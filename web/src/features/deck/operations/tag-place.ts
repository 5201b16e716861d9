import type { Schemas } from "@/api/client";
import { put } from "@/offline/rows";
import { markText } from "@/ui/words/mark-text";
import type { DeckStore } from "../document/deck-store";
import type { CalledMark } from "../rules/marks";
import type { DeckOperation } from "../scope";

type Capture = Schemas["Capture"];

const kind: DeckOperation<{ capture: string } & CalledMark, Capture> = {
  kind: "tag.place",
  apply: (deck, { shown }) => ({ ...deck, captures: put(deck.captures, shown) }),
  describe: ({ row }) => `tag ${markText(row)}`,
  subject: ({ row }) => row.capture,
};
export default kind;

/** A tag from stock goes into a fish; `shown` is the fish with it. */
export function placeTag(store: DeckStore, shown: Capture, { kind: of, number }: CalledMark): Promise<void> {
  return store.add({ kind: kind.kind, row: { capture: shown.id, kind: of, number }, shown });
}
