import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

interface Row {
  checklist: string;
  name: string;
  note: string;
  signed: boolean;
}

const kind: DeckOperation<Row> = {
  kind: "checklist.sign",
  apply: (deck, { row: { checklist, name, note, signed }, device_time }) => {
    const signature = { signed, name, note, at: device_time };
    return {
      ...deck,
      checklists: deck.checklists.map((each) =>
        each.code === checklist && !each.signature?.signed ? { ...each, signature } : each,
      ),
    };
  },
  describe: ({ row }) => `${row.signed ? "signature" : "reason to go on"}: ${row.checklist}, ${row.name}`,
  subject: ({ id }) => id,
};
export default kind;

/** Signs a checklist by name; with `signed` false it is passed over, and the note says why. */
export function signChecklist(
  store: DeckStore,
  checklist: string,
  signature: { name: string; note: string; signed: boolean },
): Promise<void> {
  return store.add({ kind: kind.kind, row: { outing: store.view.document.outing.id, checklist, ...signature } });
}
