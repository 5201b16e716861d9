// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { database } from "./database";
import type { Operation, Scope } from "./operation";
import { outbox } from "./outbox";
import { put } from "./rows";
import { enqueue, forgetAll } from "./testing";

interface Tank {
  fish: { id: string; length_mm?: number }[];
}
// a scope of no feature's: its document is a list of fish, and each entry puts one into it
vi.mock("./kinds", () => ({
  applyOperation: (tank: Tank, { shown }: Operation) => ({ fish: put(tank.fish, shown as Tank["fish"][number]) }),
}));
const TANK: Scope = { kind: "tank", id: "t" };
const OTHER: Scope = { kind: "tank", id: "other" };
/** Another kind of scope under the same key. */
const VISIT: Scope = { kind: "visit", id: "t" };
const called = (id: string, change: Partial<Operation> = {}): Operation => ({
  id,
  person: "me",
  programme: "g",
  scope: TANK,
  kind: "capture.record",
  device_time: "2026-10-12T22:00:00Z",
  row: {},
  shown: { id },
  state: "waiting",
  ...change,
});
const fish = async (scope = TANK) => (await outbox.kept<Tank>(scope))?.fish.map(({ id }) => id);
const settledRows = async () => (await database()).count("settled");

beforeEach(async () => {
  await forgetAll();
  await outbox.keep(TANK, () => ({ fish: [] }));
});

it("takes what is in out of the queue and into the kept document, and never doubles it", async () => {
  await enqueue(called("a"), called("b"), called("c"));
  const [a, b] = await outbox.queued(TANK);
  await outbox.settle([a!, b!], []);
  expect((await outbox.queued(TANK)).map(({ id }) => id)).toEqual(["c"]);
  expect(await fish()).toEqual(["a", "b"]);
  await outbox.settle([a!], []); // told a second time
  expect(await fish()).toEqual(["a", "b"]);
});

it("writes the kept document anew where much has settled, and nothing is lost", async () => {
  const ids = Array.from({ length: 301 }, (_, place) => `f${place}`);
  await enqueue(...ids.map((id) => called(id)), called("elsewhere", { scope: OTHER }));
  await outbox.settle((await outbox.queued()).slice(0, 300), []);
  expect(await settledRows()).toBe(300);
  await outbox.settle(await outbox.queued(), []);
  expect(await settledRows()).toBe(1); // of the scope whose document this device does not keep
  expect(await fish()).toEqual(ids);
});

it("keeps apart what two kinds of scope have under the same key", async () => {
  await outbox.keep(VISIT, () => ({ fish: [{ id: "z" }] }));
  await enqueue(called("a"), called("b", { scope: VISIT }));
  expect((await outbox.queued(VISIT)).map(({ id }) => id)).toEqual(["b"]);
  await outbox.settle(await outbox.queued(), []);
  expect([await fish(TANK), await fish(VISIT)]).toEqual([["a"], ["z", "b"]]);
});

it("knows a document that was read anew by that alone", async () => {
  await enqueue(called("a"));
  await outbox.settle(await outbox.queued(), []);
  await outbox.keep(TANK, () => ({ fish: [{ id: "a", length_mm: 300 }, { id: "z" }] }));
  expect((await outbox.kept<Tank>(TANK))!.fish[0]!.length_mm).toBe(300); // as the desk corrected it
  expect(await fish()).toEqual(["a", "z"]);
});

it("tells of an entry from the moment at which it is added, and no more of one that is not taken", async () => {
  const told = vi.fn();
  const stop = outbox.watch(TANK, told);
  const ids = () => (told.mock.lastCall![0] as Operation[]).map(({ id }) => id);
  await vi.waitFor(() => expect(told).toHaveBeenCalled());
  const added = outbox.add(called("a"));
  expect(ids()).toEqual(["a"]); // the disk has not answered yet
  void outbox.add(called("b", { scope: OTHER })); // not asked about
  await added;
  await vi.waitFor(() => expect(told.mock.lastCall![0]).toMatchObject([{ id: "a", seq: expect.any(Number) }]));
  const twice = outbox.add(called("a"));
  await expect(twice).rejects.toThrow();
  await vi.waitFor(async () => expect(ids()).toEqual(["a"]));
  await outbox.settle(await outbox.queued(TANK), []);
  await vi.waitFor(() => expect(ids()).toEqual([]));
  stop();
});

it("looks past those that must wait, however many they are", async () => {
  const held = Array.from({ length: 600 }, (_, place) => called(`t${place}`, { row: { capture: "bad" } }));
  await enqueue(called("bad", { state: "refused" }), ...held, called("good"));
  const { batch, held: some } = await outbox.next("me", 200, new Set());
  expect([batch.map(({ id }) => id), some]).toEqual([["good"], true]);
});

it("sends what is large by itself, after everything else, and keeps no second copy of it", async () => {
  const jpeg = "a".repeat(20_000);
  const photo = (id: string) => called(id, { kind: "photo.add", heavy: true, row: { shows: "fish", jpeg } });
  await enqueue(photo("p"), photo("q"), called("a"), called("b"));
  const ids = async () => (await outbox.next("me", 200, new Set())).batch.map(({ id }) => id);
  expect(await ids()).toEqual(["a", "b"]);
  const [p, q, a, b] = await outbox.queued(TANK);
  await outbox.settle([a!, b!], []);
  expect(await ids()).toEqual(["p"]);
  expect((await outbox.next("me", 200, new Set(["p"]))).batch.map(({ id }) => id)).toEqual(["q"]);
  await outbox.settle([p!, q!], []);
  const kept = await (await database()).getAll("settled");
  expect(kept.filter(({ heavy }) => heavy).map(({ row }) => row)).toEqual([{ shows: "fish" }, { shows: "fish" }]);
});

it("tells who watches of every change, and then no more", async () => {
  const told: string[][] = [];
  const stop = outbox.watch(TANK, (queued) => told.push(queued.map(({ id, state }) => `${id} ${state}`)));
  await expect.poll(() => told.at(-1)).toEqual([]);
  await outbox.add(called("a"));
  await expect.poll(() => told.at(-1)).toEqual(["a waiting"]);
  const [a] = await outbox.queued();
  await outbox.settle([], [{ operation: a!, error: { code: "c", message: "No.", field: null } }]);
  await expect.poll(() => told.at(-1)).toEqual(["a refused"]);
  new BroadcastChannel("nailwright-queue").postMessage("changed"); // another tab
  const before = told.length;
  await expect.poll(() => told.length).toBeGreaterThan(before);
  stop();
  const after = told.length;
  await outbox.add(called("b"));
  expect(told).toHaveLength(after);
});

describe("where the disk has no room", () => {
  const full = () =>
    vi.spyOn(IDBObjectStore.prototype, "add").mockImplementation(() => {
      throw Object.assign(new Error("no room"), { name: "QuotaExceededError" });
    });
  const ids = (of: Operation[]) => of.map(({ id, unsaved }) => (unsaved ? `${id} unsaved` : id));
  afterEach(async () => {
    vi.restoreAllMocks();
    await outbox.settle(await outbox.queued(), []);
  });

  it("keeps taking, sends what is in memory alone, and writes it in its order when there is room", async () => {
    await outbox.add(called("a"));
    const disk = full();
    await outbox.add(called("b"));
    await outbox.add(called("c", { row: { capture: "b" } }));
    expect(ids(await outbox.queued(TANK))).toEqual(["a", "b unsaved", "c unsaved"]);
    expect(ids(await outbox.queued(OTHER))).toEqual([]);
    const { batch } = await outbox.next("me", 200, new Set());
    expect(ids(batch)).toEqual(["a", "b unsaved", "c unsaved"]);
    const [a, b] = batch;
    await outbox.settle([a!, b!], []);
    expect(ids(await outbox.queued())).toEqual(["c unsaved"]);
    disk.mockRestore();
    await outbox.add(called("d"));
    expect(ids(await outbox.queued())).toEqual(["c", "d"]);
  });

  it("is changed while it is being written, and reaches the disk as changed", async () => {
    const disk = full();
    await outbox.add(called("a"));
    disk.mockRestore();
    const [a] = await outbox.queued();
    await Promise.all([outbox.add(called("b")), outbox.change(a!, { reason: "misheard" })]);
    expect((await outbox.queued()).map(({ id, unsaved, reason }) => [id, unsaved, reason])).toEqual([
      ["a", undefined, "misheard"],
      ["b", undefined, undefined],
    ]);
  });

  it("lets go of documents of other scopes before it gives up, and never of one in which something waits", async () => {
    const third: Scope = { kind: "tank", id: "third" };
    for (const scope of [OTHER, third]) await outbox.keep(scope, () => ({ fish: [] }));
    await enqueue(called("t", { scope: third }));
    const disk = full();
    await outbox.add(called("a"));
    disk.mockRestore();
    expect(await fish(OTHER)).toBeUndefined();
    expect(await fish(third)).toEqual([]);
    expect(await fish()).toEqual([]);
  });

  it("refuses a photo, and a refused or given-up entry in memory is as any other", async () => {
    full();
    await expect(outbox.add(called("p", { heavy: true }))).rejects.toThrow("no room");
    await outbox.add(called("a"));
    await outbox.add(called("b", { row: { capture: "a" } }));
    const [a] = await outbox.queued();
    await outbox.settle([], [{ operation: a!, error: { code: "c", message: "No.", field: null } }]);
    expect((await outbox.next("me", 200, new Set())).held).toBe(true);
    const { gone, takeBack } = await outbox.giveUp(a!);
    expect(gone.map(({ id }) => id)).toEqual(["a", "b"]);
    expect(await outbox.queued()).toEqual([]);
    await takeBack();
    await outbox.change(a!, { state: "waiting", error: undefined });
    expect(ids((await outbox.next("me", 200, new Set())).batch)).toEqual(["a unsaved", "b unsaved"]);
  });
});
