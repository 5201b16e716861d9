import type { DeckStore } from "../document/deck-store";
import type { Photo } from "../media/photos";
import type { DeckOperation } from "../scope";

interface Row {
  photo: string;
  deleted: boolean;
}

const kind: DeckOperation<Row, Photo> = {
  kind: "photo.edit",
  apply: (deck, { row: { photo, deleted }, shown }) => {
    const others = (deck.photos ?? []).filter(({ id }) => id !== photo);
    return { ...deck, photos: deleted ? others : [...others, shown] };
  },
  describe: ({ row }) => (row.deleted ? "photo taken out" : "photo put back"),
  subject: ({ row }) => row.photo,
};
export default kind;

/** Takes a photo out, or puts it back. */
export function takeOutPhoto(store: DeckStore, photo: Photo, deleted: boolean): Promise<void> {
  const { jpeg, ...known } = photo;
  return store.add({ kind: kind.kind, row: { photo: photo.id, deleted }, shown: deleted ? known : photo });
}
