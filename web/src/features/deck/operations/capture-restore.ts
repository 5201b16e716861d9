import type { Schemas } from "@/api/client";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

type Capture = Schemas["Capture"];

const kind: DeckOperation<{ capture: string }, Capture> = {
  kind: "capture.restore",
  apply: (deck, { shown }) => ({ ...deck, captures: put(deck.captures, shown) }),
  describe: ({ shown }) => `fish put back: ${shown?.species ?? ""} ${shown?.length_text ?? ""}`,
  subject: ({ row }) => row.capture,
};
export default kind;

export function restoreFish(store: DeckStore, capture: Capture): Promise<void> {
  return store.add({ kind: kind.kind, row: { capture: capture.id }, shown: capture });
}
