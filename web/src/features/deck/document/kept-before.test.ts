// @vitest-environment jsdom
import { deleteDB, openDB } from "idb";
import { beforeEach, expect, it } from "vitest";
import { database, recall } from "@/offline/database";
import { applyOperation } from "@/offline/kinds";
import { outbox } from "@/offline/outbox";
import { capture, emptyDeck, OUTING_ID } from "@/testing/deck";
import { type Deck, outingScope } from "../scope";
import { withFate } from "./upgrades";

const { scans: _s, length_unit: _l, mass_unit: _m, ...fish } = capture("a", { scanned: "known" });
const old = { ...fish, scan_text: "pit 999000000000101" };
const { checklists: _c, orders: _o, ...deck } = { ...emptyDeck(), captures: [old] };

beforeEach(async () => {
  await database();
  await deleteDB("nailwright"); // which asks the open one to close
});

/** The database as this application made it in an earlier version. */
async function keptBefore(version: number): Promise<void> {
  const db = await openDB("nailwright", version, {
    upgrade(db) {
      const operations = db.createObjectStore("operations", { keyPath: "seq", autoIncrement: true });
      operations.createIndex("id", "id", { unique: true });
      operations.createIndex("outing", "outing");
      operations.createIndex("[person+state]", ["person", "state"]);
      db.createObjectStore("decks", { keyPath: "outing" });
      db.createObjectStore("remembered", { keyPath: "key" });
      if (version >= 40) db.createObjectStore("settled", { keyPath: "seq" }).createIndex("outing", "outing");
    },
  });
  await db.put("decks", { outing: OUTING_ID, deck });
  await db.put("remembered", { key: "pedal", value: 96 });
  await db.add("operations", {
    id: "a",
    person: "me",
    programme: "g",
    outing: OUTING_ID,
    kind: "capture.record",
    device_time: "2026-10-12T22:00:00Z",
    row: { run: "r", species: "wal", length: "463" },
    shown: old,
    state: "waiting",
  });
  db.close();
}

it.each([10, 20])("understands what a tablet kept in version %d", async (version) => {
  await keptBefore(version);
  const kept = { length_unit: "", mass_unit: "", scans: [{ kind: "pit", number: "999000000000101", result: "known" }] };
  const shown = await outbox.kept<Deck>(outingScope(OUTING_ID));
  expect(shown!.captures[0]).toMatchObject({ id: "a", length_mm: 463, ...kept });
  if (version === 10) expect(shown).toMatchObject({ checklists: [], orders: null });
  const [operation] = await outbox.queued(outingScope(OUTING_ID));
  expect(operation).toMatchObject({ id: "a", row: { length: "463" }, shown: { id: "a", ...kept } });
  expect(await recall("pedal")).toBe(96);
});

it.each([30, 40])(
  "understands how fish left that a tablet kept in version %d, and sends what waits as it was made",
  async (version) => {
    await keptBefore(version);
    expect((await outbox.queued(outingScope(OUTING_ID)))[0]!.shown).toEqual({
      ...old,
      release: "",
      strength: null,
      reason: "",
      taken_to: "",
    });
    expect((await outbox.kept<Deck>(outingScope(OUTING_ID)))!.protocol).toEqual({ number: 0, values: {} });
    const { batch } = await outbox.next("me", 5, new Set());
    expect(batch.map(({ id, row }) => [id, row])).toEqual([["a", { run: "r", species: "wal", length: "463" }]]);
  },
);

it("understands what a tablet kept in version 70, when all there was were outings", async () => {
  await keptBefore(70);
  const db = await openDB("nailwright", 70);
  await db.put("decks", { outing: OUTING_ID, deck: { ...emptyDeck(), captures: [capture("x")] } });
  const b = {
    id: "b",
    person: "me",
    programme: "g",
    outing: OUTING_ID,
    kind: "capture.record",
    row: {},
    shown: capture("b"),
  };
  await db.put("settled", { ...b, seq: 90, state: "waiting", device_time: "2026-10-12T22:00:00Z" });
  db.close();
  const scope = outingScope(OUTING_ID);
  expect((await outbox.kept<Deck>(scope))!.captures.map(({ id }) => id)).toEqual(["x", "b"]);
  const [waits] = await outbox.queued(scope);
  expect(waits).toMatchObject({ id: "a", scope, row: { run: "r", species: "wal", length: "463" } });
  expect(waits).not.toHaveProperty("outing");
});

it("understands zones and readings that a tablet kept in version 80", async () => {
  const db = await openDB("nailwright", 80, {
    upgrade(db) {
      for (const name of ["operations", "settled"])
        db.createObjectStore(name, { keyPath: "seq" }).createIndex("scope", ["scope.kind", "scope.id"]);
      db.createObjectStore("documents", { keyPath: ["scope.kind", "scope.id"] });
      db.createObjectStore("remembered", { keyPath: "key" });
    },
  });
  const figure = { code: "secchi_m", title: "Secchi depth", unit: "m", low: 0, high: 80, choices: [], whole: false };
  const word = { ...figure, code: "sky", choices: ["clear", "rain"] };
  const before = {
    ...emptyDeck(),
    sites: [{ id: "s", name: "K15", reach: "Lower river", river_km: 15 }],
    targets: [{ id: "t", species: "wal", what: "marked", wanted: 9, from_mm: null, reach: "Lower river" }],
    readings: [figure, word, { ...figure, code: "gates_open", whole: true }].map((each) => ({ ...each, asked: "run" })),
  };
  await db.put("documents", { scope: outingScope(OUTING_ID), document: before });
  db.close();
  const shown = (await outbox.kept<Deck>(outingScope(OUTING_ID)))!;
  expect([shown.sites[0]!.zone, shown.targets[0]!.zone]).toEqual(["Lower river", "Lower river"]);
  expect(shown.readings.map(({ name, kind, asked }) => [name, kind, asked])).toEqual([
    ["secchi_m", "number", "run"],
    ["sky", "choice", "run"],
    ["gates_open", "whole", "run"],
  ]);
  expect(shown.readings[1]!.choices[1]).toEqual({ value: "rain", label: "rain" });
});

it("understands events that a tablet kept in version 90, and sends what waits as it was made", async () => {
  const db = await openDB("nailwright", 90, {
    upgrade(db) {
      for (const name of ["operations", "settled"]) {
        const store = db.createObjectStore(name, { keyPath: "seq", autoIncrement: true });
        store.createIndex("scope", ["scope.kind", "scope.id"]);
        store.createIndex("id", "id", { unique: true });
        store.createIndex("[person+state]", ["person", "state"]);
      }
      db.createObjectStore("documents", { keyPath: ["scope.kind", "scope.id"] });
      db.createObjectStore("remembered", { keyPath: "key" });
    },
  });
  const scope = outingScope(OUTING_ID);
  const event = { id: "e", run: null, capture: "x", kind: "lane", device_time: "2026-10-12T22:00:00Z" };
  const before = { ...emptyDeck(), captures: [capture("x")], events: [{ ...event, said: { lane: "bath" } }] };
  await db.put("documents", { scope, document: before });
  const entry = { person: "me", programme: "g", scope, state: "waiting", device_time: "2026-10-12T22:01:00Z" };
  const said = { what: "lane", said: { lane: "table" }, capture: "x" };
  await db.put("operations", { ...entry, id: "f", kind: "event.say", row: said });
  const edit = { event: "e", said: { lane: "recovery" } };
  const shown = { ...event, said: { lane: "bath" } };
  await db.put("operations", { ...entry, id: "g", kind: "event.edit", row: edit, shown });
  db.close();
  const kept = (await outbox.kept<Deck>(scope))!;
  expect(kept.events.map(({ details }) => details)).toEqual([{ lane: "bath" }]);
  const queued = await outbox.queued(scope);
  const now = queued.reduce(applyOperation<Deck>, kept);
  expect(now.events.map(({ id, details }) => [id, details])).toEqual([
    ["e", { lane: "recovery" }],
    ["f", { lane: "table" }],
  ]);
  expect(queued[1]!.shown).toMatchObject({ details: { lane: "bath" } });
  const { batch } = await outbox.next("me", 5, new Set());
  expect(batch.map(({ kind, row }) => [kind, row])).toEqual([
    ["event.say", said],
    ["event.edit", edit],
  ]);
});

it("reads alive and weak of before as released", () => {
  const before = (release: string) => withFate({ ...capture("a"), release } as never).release;
  expect(["alive", "weak", "dead", ""].map(before)).toEqual(["released", "released", "dead", ""]);
});

it("lets a newer version in another tab change it", async () => {
  await outbox.queued();
  const newer = await openDB("nailwright", 101);
  newer.close();
  await expect(database()).rejects.toThrow(/version/i); // this older tab says so, and breaks nothing
});
