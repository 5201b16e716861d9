import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { offline } from "@/offline/database";
import { sender } from "@/offline/sender";
import { readCall } from "./call-line";
import {
  correctFish,
  deleteFish,
  editRun,
  keepFish,
  releaseFish,
  restoreFish,
  signChecklist,
  startRun,
} from "./deck-actions";
import { DeckStore } from "./deck-store";
import { capture, emptyDeck, OUTING_ID, RUN, SPECIES, UNITS } from "./testing";

const settings = { species: SPECIES, units: UNITS, lengthUnit: "mm", massUnit: "g" };
const call = (line: string) => readCall(line, settings, "wal");
let served: ReturnType<typeof emptyDeck> | null;
let stores: DeckStore[];

const open = async () => {
  const store = await DeckStore.open(OUTING_ID, "me");
  stores.push(store);
  return store;
};
const queued = async () => (await offline.operations.orderBy("seq").toArray()).map(({ kind }) => kind);

beforeEach(async () => {
  await Promise.all([offline.operations.clear(), offline.decks.clear()]);
  served = { ...emptyDeck(), runs: [RUN] };
  stores = [];
  // the deck is served, or there is no answer; nothing is ever sent in these tests
  vi.spyOn(sender, "wake").mockImplementation(() => {});
  vi.stubGlobal("fetch", async () => {
    if (!served) throw new TypeError("Failed to fetch");
    return new Response(JSON.stringify(served), { headers: { "Content-Type": "application/json" } });
  });
});

afterEach(() => {
  for (const store of stores) store.close();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

describe("what is done shows at once and is kept on the disk", () => {
  it("a called fish, marked unsent from the moment of Enter", async () => {
    const store = await open();
    const kept = keepFish(store, RUN, call("469 1120 f"), "pressure", []);
    const [fish] = store.view.deck.captures;
    expect(fish).toMatchObject({ species: "wal", length_mm: 469, mass_g: 1120, sex: "f", sex_evidence: "pressure" });
    expect(store.view.unsent.has(fish!.id)).toBe(true);
    await kept;
    expect(await queued()).toEqual(["capture.record"]);
    const [operation] = await offline.operations.toArray();
    expect(operation).toMatchObject({ id: fish!.id, person: "me", outing: OUTING_ID, state: "waiting" });
    expect(operation!.row).toMatchObject({ length: "469", mass: "1120", sex: "f" });
  });

  it("a correction, a removal and its undoing, in their order", async () => {
    const store = await open();
    await keepFish(store, RUN, call("469"), "", []);
    const fish = store.view.deck.captures[0]!;
    await correctFish(store, fish, call("496"), "", []);
    expect(store.view.deck.captures[0]).toMatchObject({ id: fish.id, length_mm: 496 });
    await deleteFish(store, store.view.deck.captures[0]!);
    expect(store.view.deck.captures).toEqual([]);
    await restoreFish(store, { ...fish, length_mm: 496 });
    expect(store.view.deck.captures[0]).toMatchObject({ length_mm: 496 });
    expect(await queued()).toEqual(["capture.record", "capture.edit", "capture.delete", "capture.restore"]);
  });

  it("the next run takes the next number, and its end", async () => {
    const store = await open();
    await startRun(store, "s", "boat_electrofishing", { volts: 210, amps: null, pulse_hz: 30, pulse_width_ms: 4 });
    const next = store.view.deck.runs.at(-1)!;
    expect(next).toMatchObject({ number: 2, volts: 210, ended_at: null });
    await editRun(store, next, { ended_at: "2026-10-12T23:00:00Z" });
    expect(store.view.deck.runs.at(-1)!.ended_at).toBe("2026-10-12T23:00:00Z");
  });

  it("a checklist that is signed with no signal, and is still signed when the tablet is opened again", async () => {
    const list = { code: "boat", version: 1, title: "Boat", lines: ["Life jackets."], note: "", signature: null };
    served = { ...emptyDeck(), checklists: [list] };
    const store = await open();
    await signChecklist(store, "boat", { name: "Ada", note: "", signed: true });
    expect(store.view.deck.checklists[0]!.signature).toMatchObject({ name: "Ada", signed: true });
    served = null;
    const again = await open();
    expect(again.view.deck.checklists[0]!.signature).toMatchObject({ name: "Ada", signed: true });
    expect(await queued()).toEqual(["checklist.sign"]);
  });

  it("releases of many fish, and one taken back", async () => {
    const store = await open();
    await keepFish(store, RUN, call("469"), "", []);
    await keepFish(store, RUN, call("350"), "", []);
    const ids = store.view.deck.captures.map(({ id }) => id);
    await releaseFish(store, ids, "alive");
    await releaseFish(store, [ids[0]!], "");
    expect(store.view.deck.captures.map(({ release }) => release)).toEqual(["", "alive"]);
    expect((await offline.operations.toArray()).at(-1)!.row).toEqual({ captures: [ids[0]], code: null });
  });
});

describe("a scanned fish", () => {
  const fish = {
    id: "f1",
    species: "wal",
    marks: [{ kind: "pit" as const, number: "999000000012345" }],
    times_met: 1,
    last: { at: "", outing: "o", site: "s", days: 365, length_mm: 400, months: 12 },
  };

  it("that is known is recorded with its number, for the server to recognise", async () => {
    const store = await open();
    const met = { kind: "pit" as const, number: "999000000012345", meaning: "known" as const, fish };
    await keepFish(store, RUN, call("999000000012345 469"), "", [], [met]);
    expect(store.view.deck.captures[0]).toMatchObject({ fish: "f1", scanned: "known" });
    const [operation] = await offline.operations.toArray();
    expect(operation!.row).toMatchObject({ scanned: "number", scan_kind: "pit", scan: "999000000012345" });
  });

  it("that was bare gets its tags after it is recorded, and may leave dead", async () => {
    const store = await open();
    const tags = [
      { kind: "pit" as const, number: "999000000012346", meaning: "stock" as const, batch: "1" },
      { kind: "tbar" as const, number: "W1001", meaning: "stock" as const, batch: "1" },
    ];
    await keepFish(store, RUN, call("none 469 dead"), "", [], tags);
    expect(await queued()).toEqual(["capture.record", "tag.place", "tag.place", "release.set"]);
    const [kept] = store.view.deck.captures;
    expect(kept).toMatchObject({ scanned: "none", release: "dead" });
    expect(kept!.placed.map(({ number }) => number)).toEqual(["999000000012346", "W1001"]);
  });
});

describe("a tablet closed and opened again", () => {
  it("shows what was done and not yet sent, with and without an answer from the server", async () => {
    const store = await open();
    await keepFish(store, RUN, call("469"), "", []);
    store.close();
    for (const server of [served, null]) {
      served = server;
      const again = await open();
      expect(again.view.deck.captures.map(({ length_mm }) => length_mm)).toEqual([469]);
      expect(again.view.unsent.size).toBe(1);
    }
  });

  it("does not show a fish twice that the server has as well", async () => {
    const store = await open();
    await keepFish(store, RUN, call("469"), "", []);
    const [fish] = store.view.deck.captures;
    served = { ...served!, captures: [{ ...fish!, length_mm: 469 }] };
    const again = await open();
    expect(again.view.deck.captures).toHaveLength(1);
  });

  it("that was never here says so where there is no answer", async () => {
    served = null;
    await expect(DeckStore.open(OUTING_ID, "me")).rejects.toThrow("Failed to fetch");
  });
});

it("says so, and takes the fish back, where the device cannot keep it", async () => {
  const store = await open();
  vi.spyOn(offline.operations, "add").mockRejectedValueOnce(new Error("QuotaExceededError"));
  await expect(keepFish(store, RUN, call("469"), "", [])).rejects.toThrow();
  expect(store.view.trouble).toMatch(/could not keep the last entry.*on paper/);
  expect(store.view.deck.captures).toEqual([]);
  await keepFish(store, RUN, call("470"), "", []);
  expect(store.view.deck.captures).toHaveLength(1);
});

it("gives up a refused entry only when told to, and can take that back", async () => {
  const refused = {
    id: "01900000-0000-7000-8000-0000000000aa",
    person: "me",
    programme: "g",
    outing: OUTING_ID,
    kind: "capture.record" as const,
    device_time: "2026-10-12T22:00:00Z",
    row: { species: "wal", length: "469" },
    shown: capture("01900000-0000-7000-8000-0000000000aa"),
    state: "refused" as const,
    error: { code: "outing_closed", message: "Closed.", field: "outing" },
  };
  await offline.operations.add(refused);
  const store = await open();
  expect(store.view.refused.map(({ error }) => error?.code)).toEqual(["outing_closed"]);
  const takeBack = await store.discard(store.view.refused[0]!);
  expect(store.view.deck.captures).toEqual([]);
  await takeBack();
  expect(store.view.deck.captures).toHaveLength(1);
  expect(await queued()).toEqual(["capture.record"]);
});
