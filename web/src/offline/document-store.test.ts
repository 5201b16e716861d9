// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from "vitest";
import { DocumentStore, openScope } from "./document-store";
import type { Operation, Scope } from "./operation";
import { outbox } from "./outbox";
import { forgetAll } from "./testing";

/** A scope of no feature's: a visit to a receiver, whose notes one may add. */
interface Visit {
  programme: string;
  notes: string[];
}
vi.mock("./kinds", () => ({
  applyOperation: (visit: Visit, { row }: Operation) => ({
    ...visit,
    notes: visit.notes.includes(row.note as string) ? visit.notes : [...visit.notes, row.note as string],
  }),
  subjectOf: ({ id }: Operation) => id,
}));

const scope: Scope = { kind: "visit", id: "v" };
const kind = { kind: "visit", programme: ({ programme }: Visit) => programme };
const who = { id: "ada", name: "Ada" };

class VisitStore extends DocumentStore<Visit> {
  note = (note: string) => this.put({ kind: "visit.note", row: { visit: scope.id, note }, shown: note });
}

let served: Visit | Error;
const ports = {
  outbox,
  sender: { wake: vi.fn(), subscribe: () => () => undefined, signal: "no answer" },
  clock: { now: () => new Date("2026-10-12T22:00:00Z"), offset: 0 },
  channel: { tell: vi.fn(), listen: () => () => undefined },
  load: async () => {
    if (served instanceof Error) throw served;
    return served;
  },
};
const open = async () => new VisitStore(scope, kind, who, ports, await openScope<Visit>(scope, ports), {});

beforeEach(async () => {
  await forgetAll();
  served = { programme: "g", notes: [] };
});

it("works any scope with no signal: opened as last known, added to, kept and queued under its own name", async () => {
  (await open()).close(); // once with a signal
  served = new TypeError("no signal");
  const store = await open();
  await store.asking;
  expect(store.view.stale).toMatch(/No signal: this is the visit as this device last knew it/);
  await store.note("fouled with weed");
  expect(store.view.document.notes).toEqual(["fouled with weed"]);
  expect(await outbox.queued()).toMatchObject([
    { scope, programme: "g", person: "ada", kind: "visit.note", state: "waiting", row: { note: "fouled with weed" } },
  ]);
  store.close();
  const again = await open(); // the page was reloaded, still with no signal
  expect(again.view.document.notes).toEqual(["fouled with weed"]);
  again.close();
});

it("keeps what went through while the server was asked", async () => {
  const store = await open();
  await store.note("fouled with weed");
  served = { programme: "g", notes: [] }; // as asked before the entry reached it
  const reading = store.reload();
  await outbox.settle(await outbox.queued(scope), []);
  await reading;
  expect(store.view.document.notes).toEqual(["fouled with weed"]);
  store.close();
});

it("keeps what went through at the very moment in which the answer was kept", async () => {
  const store = await open();
  await store.note("fouled with weed");
  served = { programme: "g", notes: [] }; // as asked before the entry reached it
  const [entry] = await outbox.queued(scope);
  const keep = vi.spyOn(outbox, "keep").mockImplementationOnce(async (...asked) => {
    await outbox.settle([entry!], []);
    return outbox.keep(...asked);
  });
  await store.reload();
  keep.mockRestore();
  served = new TypeError("no signal");
  const again = await open(); // the page was reloaded with no signal
  expect(again.view.document.notes).toEqual(["fouled with weed"]);
  again.close();
  store.close();
});

it("follows what others do, keeps what waits here, and stops when it is left", async () => {
  const asked: Visit[] = [];
  let theirs: Visit | null = null;
  const live = {
    ...ports,
    since: async (_: string, last: Visit) => {
      asked.push(last);
      return { document: theirs, again_s: 0.01 };
    },
  };
  const store = new VisitStore(scope, kind, who, live, await openScope<Visit>(scope, live), {});
  await store.note("mine waits");
  const stop = store.follow();
  await vi.waitFor(() => expect(asked.length).toBeGreaterThan(1));
  expect(asked[0]!.notes).toEqual([]); // what the server gave last: nobody asks it of what waits here
  theirs = { programme: "g", notes: ["of the other device"] };
  await vi.waitFor(() => expect(store.view.document.notes).toEqual(["of the other device", "mine waits"]));
  await vi.waitFor(() => expect(asked.at(-1)!.notes).toEqual(["of the other device"]));
  expect(await outbox.queued()).toHaveLength(1);
  stop();
  await new Promise((resolve) => setTimeout(resolve, 50));
  const then = asked.length;
  await new Promise((resolve) => setTimeout(resolve, 80));
  expect(asked).toHaveLength(then);
  store.close();
});

it("an answer that was asked for first does not come over a later one", async () => {
  let answer: (visit: Visit) => void = () => undefined;
  const slow = {
    ...ports,
    load: () => new Promise<Visit>((resolve) => (answer = resolve)),
    since: async () => ({ document: { programme: "g", notes: ["newer"] }, again_s: 60 }),
  };
  const store = new VisitStore(
    scope,
    kind,
    who,
    slow,
    { document: { programme: "g", notes: [] }, queued: [], kept: true },
    {},
  );
  const stop = store.follow();
  await vi.waitFor(() => expect(answer).not.toBeUndefined());
  await new Promise((resolve) => setTimeout(resolve, 30));
  answer({ programme: "g", notes: ["older"] });
  await vi.waitFor(() => expect(store.view.document.notes).toEqual(["newer"]));
  stop();
  store.close();
});
