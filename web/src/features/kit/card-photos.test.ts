import { describe, expect, it } from "vitest";
import { applyOperation } from "@/offline/kinds";
import type { Operation } from "@/offline/operation";
import { cardWith } from "./cards";
import type { Kit } from "./scope";

const JPEG = new Blob(["x"]);
const bare = { id: "k", tagger_number: "17", species: [], tags: [], conditions: [] } as unknown as Kit;
const card = cardWith(bare, { id: "c", device_time: "2026-06-01T08:00:00Z" }, { species: "wal" });
const kit: Kit = { ...bare, cards: [card] };

const entry = (id: string, kind: string, row: object, shown?: object) =>
  ({
    id,
    kind,
    row,
    shown,
    scope: { kind: "kit", id: "k" },
    device_time: "2026-06-01T08:00:00Z",
  }) as unknown as Operation;
const added = entry("p", "card_photo.add", { card: "c", jpeg: JPEG });
const of = (now: Kit) => [now.cards[0]!.photos, (now.cards[0]!.waiting ?? []).map(({ id }) => id)];

describe("photos of a card with no signal", () => {
  it("are shown at once, and once", () => {
    const once = applyOperation(kit, added);
    expect(of(once)).toEqual([[], ["p"]]);
    expect(of(applyOperation(once, added))).toEqual([[], ["p"]]);
    expect(kit.cards[0]!.waiting).toBeUndefined();
  });

  it("are the server's once it has them", () => {
    const theirs: Kit = { ...kit, cards: [{ ...card, photos: ["p"] }] };
    expect(of(applyOperation(theirs, added))).toEqual([["p"], []]);
  });

  it("are deleted and restored where they lie: on this device or at the server", () => {
    const waiting = applyOperation(kit, added);
    const gone = entry("d", "card_photo.delete", { photo: "p", deleted: true }, { card: "c" });
    expect(of(applyOperation(waiting, gone))).toEqual([[], []]);
    const shown = { card: "c", waiting: { id: "p", jpeg: JPEG } };
    const back = entry("r", "card_photo.delete", { photo: "p", deleted: false }, shown);
    expect(of(applyOperation(applyOperation(waiting, gone), back))).toEqual([[], ["p"]]);
    const theirs: Kit = { ...kit, cards: [{ ...card, photos: ["p", "q"] }] };
    expect(of(applyOperation(theirs, gone))).toEqual([["q"], []]);
    const again = entry("r", "card_photo.delete", { photo: "p", deleted: false }, { card: "c" });
    expect(of(applyOperation(applyOperation(theirs, gone), again))).toEqual([["q", "p"], []]);
  });

  it("of a card that is not here change nothing", () => {
    expect(applyOperation(kit, entry("p", "card_photo.add", { card: "other", jpeg: JPEG })).cards).toEqual(kit.cards);
  });
});
