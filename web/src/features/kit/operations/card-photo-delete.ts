import { changeCard } from "../cards";
import type { KitStore } from "../kit-store";
import type { Card, KitOperation } from "../scope";

interface Row {
  photo: string;
  deleted: boolean;
}
/** The card as it was, so that its photo can be restored where no server is. */
interface Shown {
  card: string;
  waiting?: NonNullable<Card["waiting"]>[number];
}

const kind: KitOperation<Row, Shown> = {
  kind: "card_photo.delete",
  apply: (kit, { row: { photo, deleted }, shown }) =>
    changeCard(kit, shown.card, (old) => {
      const photos = old.photos.filter((id) => id !== photo);
      const waiting = (old.waiting ?? []).filter(({ id }) => id !== photo);
      if (deleted) return { ...old, photos, waiting };
      return shown.waiting ? { ...old, waiting: [...waiting, shown.waiting] } : { ...old, photos: [...photos, photo] };
    }),
  describe: ({ row }) => (row.deleted ? "photo of a card deleted" : "photo of a card restored"),
  subject: ({ row }) => row.photo,
};
export default kind;

/** Deletes a photo of a card, or restores it; `card` as it was with the photo. */
export function deleteCardPhoto(store: KitStore, card: Card, photo: string, deleted = true): void {
  const waiting = card.waiting?.find(({ id }) => id === photo);
  store.add(kind.kind, { photo, deleted }, { card: card.id, ...(waiting ? { waiting } : {}) });
}
