import type { DeckStore } from "../document/deck-store";
import type { Photo, Shows } from "../media/photos";
import type { DeckOperation } from "../scope";

interface Row {
  outing: string;
  capture?: string;
  shows: Shows;
  note?: string;
  /** A file on this device, base64 where it was carried here; the server's copy is asked for by its key once it is in. */
  jpeg?: Blob | string;
  lat?: number;
  lon?: number;
}

const kind: DeckOperation<Row> = {
  kind: "photo.add",
  apply: (deck, { id, row, device_time }) => {
    const photos: Photo[] = deck.photos ?? [];
    if (photos.some((each) => each.id === id)) return deck;
    const { shows, capture = null, note = "", jpeg } = row;
    const photo: Photo = { id, shows, capture, note, device_time, ...(jpeg ? { jpeg } : {}) };
    return { ...deck, photos: [...photos, photo] };
  },
  describe: ({ row }) => `photo: ${row.shows}`,
  subject: ({ id }) => id,
};
export default kind;

/** Keeps a photo; it is sent by itself, after its fish. */
export function addPhoto(store: DeckStore, row: Omit<Row, "outing">): Promise<void> {
  return store.add({ kind: kind.kind, row: { outing: store.view.document.outing.id, ...row }, heavy: true });
}
