import type { KitStore } from "../kit-store";
import type { Card, KitOperation } from "../scope";

interface Row {
  card: string;
  deleted: boolean;
}

/** A deleted card is kept with its entry, so that it can be restored where no server is. */
const kind: KitOperation<Row> = {
  kind: "card.delete",
  apply: (kit, { row, shown }) => {
    const rest = kit.cards.filter(({ id }) => id !== row.card);
    const card = shown as Card | undefined;
    if (row.deleted) {
      const gone = kit.cards.find(({ id }) => id === row.card);
      const freed = gone?.number_text && gone.tag_kind ? [{ kind: gone.tag_kind, number: gone.number_text }] : [];
      const known = freed.filter(({ number }) => !kit.tags.some((each) => each.number === number));
      return gone ? { ...kit, cards: rest, tags: [...known, ...kit.tags] } : kit;
    }
    if (!card || rest.length < kit.cards.length) return kit;
    const tags = kit.tags.filter(({ number }) => number !== card.number_text);
    return { ...kit, tags, cards: [card, ...rest].sort((a, b) => b.device_time.localeCompare(a.device_time)) };
  },
  describe: ({ row }) => (row.deleted ? "card deleted" : "card restored"),
  subject: ({ row }) => row.card,
};
export default kind;

/** Deletes a card, or restores it. */
export function deleteCard(store: KitStore, card: Card, deleted = true): void {
  store.add(kind.kind, { card: card.id, deleted }, card);
}
