import { changeCard } from "../cards";
import type { KitStore } from "../kit-store";
import type { KitOperation } from "../scope";

interface Row {
  card: string;
  /** A file on this device, base64 where it was carried here. */
  jpeg?: Blob | string;
}

const kind: KitOperation<Row> = {
  kind: "card_photo.add",
  apply: (kit, { id, row: { card, jpeg } }) =>
    changeCard(kit, card, (old) => {
      const waiting = old.waiting ?? [];
      const there = old.photos.includes(id) || waiting.some((each) => each.id === id);
      return there ? old : { ...old, waiting: [...waiting, { id, jpeg }] };
    }),
  describe: () => "photo of a card",
  subject: ({ id }) => id,
};
export default kind;

/** Keeps a photo of a card; it is sent by itself, after its card. */
export function addCardPhoto(store: KitStore, card: string, jpeg: Blob): Promise<void> {
  return store.addLarge(kind.kind, { card, jpeg });
}
