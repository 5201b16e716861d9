import Dexie from "dexie";
import { expect, it } from "vitest";
import { capture, emptyDeck, OUTING_ID } from "@/features/deck/testing";

it("understands what a tablet kept before units and scans were", async () => {
  const { scans: _s, length_unit: _l, mass_unit: _m, ...fish } = capture("a", { scanned: "known" });
  const old = { ...fish, scan_text: "pit 999000000000101" };
  const before = new Dexie("nailwright");
  before.version(2).stores({ operations: "++seq, &id, outing, [person+state]", decks: "outing", remembered: "key" });
  await before.table("decks").put({ outing: OUTING_ID, deck: { ...emptyDeck(), captures: [old] } });
  await before.table("operations").add({
    id: "a",
    person: "me",
    programme: "g",
    outing: OUTING_ID,
    kind: "capture.record",
    device_time: "2026-10-12T22:00:00Z",
    row: { run: "r", species: "wal", length: "469" },
    shown: old,
    state: "waiting",
  });
  before.close();
  const { offline } = await import("./database");
  const kept = { length_unit: "", mass_unit: "", scans: [{ kind: "pit", number: "999000000000101", result: "known" }] };
  expect((await offline.decks.get(OUTING_ID))!.deck.captures[0]).toMatchObject({ id: "a", length_mm: 469, ...kept });
  const [operation] = await offline.operations.toArray();
  expect(operation).toMatchObject({ id: "a", row: { length: "469" }, shown: { id: "a", ...kept } });
});
