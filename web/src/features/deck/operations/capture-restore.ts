import type { Schemas } from "@/api/client";
import type { OperationKind } from "@/offline/operation";
import { put } from "@/offline/rows";
import type { DeckStore } from "../deck-store";

type Capture = Schemas["Capture"];

const kind: OperationKind<{ capture: string }, Capture> = {
  kind: "capture.restore",
  apply: (deck, { shown }) => ({ ...deck, captures: put(deck.captures, shown) }),
  describe: ({ shown }) => `fish put back: ${shown?.species ?? ""} ${shown?.length_text ?? ""}`,
  subject: ({ row }) => row.capture,
};
export default kind;

export function restoreFish(store: DeckStore, capture: Capture): Promise<void> {
  return store.add({ kind: kind.kind, row: { capture: capture.id }, shown: capture });
}
