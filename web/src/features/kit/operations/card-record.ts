import { type CardRow, cardWith, withCard } from "../cards";
import type { KitStore } from "../kit-store";
import type { KitOperation } from "../scope";

const kind: KitOperation<CardRow> = {
  kind: "card.record",
  apply: (kit, { id, row, device_time }) =>
    kit.cards.some((each) => each.id === id) ? kit : withCard(kit, cardWith(kit, { id, device_time }, row)),
  describe: ({ row }) => `card: ${[row.number_text || "no tag", row.species, row.length].filter(Boolean).join(", ")}`,
  subject: ({ id }) => id,
};
export default kind;

/** Keeps a card on the phone; it is sent when there is a signal. Gives its key. */
export function recordCard(store: KitStore, row: CardRow): string {
  return store.add(kind.kind, row);
}
