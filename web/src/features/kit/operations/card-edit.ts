import { type CardRow, cardWith, withCard } from "../cards";
import type { KitStore } from "../kit-store";
import type { KitOperation } from "../scope";

type Row = CardRow & { card: string };

const kind: KitOperation<Row> = {
  kind: "card.edit",
  apply: (kit, { row: { card: key, ...told } }) => {
    const card = kit.cards.find(({ id }) => id === key);
    return card ? withCard(kit, cardWith(kit, card, told)) : kit;
  },
  describe: ({ row: { card: _, ...told } }) => `card changed: ${Object.keys(told).join(", ")}`,
  subject: ({ row }) => row.card,
};
export default kind;

/** Changes what a card tells; only what the row tells changes. */
export function editCard(store: KitStore, card: string, row: CardRow): void {
  store.add(kind.kind, { card, ...row });
}
