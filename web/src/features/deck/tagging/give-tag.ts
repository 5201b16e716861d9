import type { Schemas } from "@/api/client";
import type { DeckStore } from "../document/deck-store";
import { sayScannedNone } from "../operations/capture-edit";
import { placeTag } from "../operations/tag-place";
import { takeTagIn } from "../operations/tag-take-in";
import type { CalledMark } from "../rules/marks";

/** A fish that was kept is given a tag; one that was never entered goes into the stock first, and a fish that nobody scanned was found bare. */
export function giveTag(
  store: DeckStore,
  capture: Schemas["Capture"],
  mark: CalledMark,
  inStock: boolean,
): Promise<unknown> {
  const entries = inStock ? [] : [takeTagIn(store, mark)];
  const bare: Schemas["Capture"] = capture.scanned ? capture : { ...capture, scanned: "none" };
  if (bare !== capture) entries.push(sayScannedNone(store, bare));
  const placed = [...bare.placed, { kind: mark.kind, number: mark.number, body_site: "", quality: "" } as const];
  entries.push(placeTag(store, { ...bare, placed }, mark));
  return Promise.all(entries);
}
