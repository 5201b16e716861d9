import type { Schemas } from "@/api/client";
import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

const kind: DeckOperation<{ capture: string; meant?: string }> = {
  kind: "capture.delete",
  apply: (deck, { row }) => ({ ...deck, captures: deck.captures.filter(({ id }) => id !== row.capture) }),
  describe: () => "fish taken out",
  subject: ({ row }) => row.capture,
};
export default kind;

export function deleteFish(store: DeckStore, capture: Schemas["Capture"]): Promise<void> {
  return store.add({ kind: kind.kind, row: { capture: capture.id } });
}
