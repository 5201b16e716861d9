// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { ScopeMessage } from "@/offline/document-store";
import type { Operation } from "@/offline/operation";
import { outbox } from "@/offline/outbox";
import { enqueue, forgetAll } from "@/offline/testing";
import { capture, emptyDeck, NO_FIGURES, OUTING_ID, RUN, SPECIES, UNITS } from "@/testing/deck";
import type { Caller } from "../calling/callers";
import { deleteFish } from "../operations/capture-delete";
import { correctFish } from "../operations/capture-edit";
import { keepFish } from "../operations/capture-record";
import { restoreFish } from "../operations/capture-restore";
import { signChecklist } from "../operations/checklist-sign";
import { addPhoto } from "../operations/photo-add";
import { releaseFish } from "../operations/release-set";
import { editRun } from "../operations/run-edit";
import { startRun } from "../operations/run-start";
import { callText, readCall } from "../rules/call-line";
import { type Deck, outingScope } from "../scope";
import { giveTag } from "../tagging/give-tag";
import type { DeckPorts } from "./deck-ports";
import { DeckStore } from "./deck-store";

const settings = { species: SPECIES, units: UNITS, lengthUnit: "mm", massUnit: "g" };
const call = (line: string) => readCall(line, settings, "wal");
const ME = { id: "me", name: "Ada" };
const WAITS: Pick<Operation, "person" | "programme" | "scope" | "device_time"> = {
  person: "me",
  programme: "g",
  scope: outingScope(OUTING_ID),
  device_time: "2026-10-12T22:00:00Z",
};

/** The deck as the server gives it, or what its answer fails with. */
let served: Deck | Error;
let stores: DeckStore[];
let tabs: Set<(message: ScopeMessage) => void>;
let ports: DeckPorts;
let signalled: () => void;
let remembered: Map<string, Caller | null>;

const open = async () => {
  const store = await DeckStore.open(OUTING_ID, ME, ports);
  stores.push(store);
  await store.asking;
  return store;
};
const queued = async () => (await outbox.queued()).map(({ kind }) => kind);
const rows = async () => (await outbox.queued()).map(({ row }) => row);
/** What the server says of everything that is queued. */
const settleAll = async () => outbox.settle(await outbox.queued(), []);

beforeEach(async () => {
  await forgetAll();
  served = { ...emptyDeck(), runs: [RUN] };
  stores = [];
  tabs = new Set();
  let signal = "no answer";
  remembered = new Map();
  ports = {
    caller: {
      last: async (outing, own) => remembered.get(`${outing} ${own.id}`) ?? null,
      remember: async (outing, own, caller) => void remembered.set(`${outing} ${own.id}`, caller),
    },
    outbox,
    sender: {
      wake: () => undefined,
      subscribe: (listener) => {
        signalled = () => {
          signal = "sent";
          listener();
        };
        return () => undefined;
      },
      get signal() {
        return signal;
      },
    },
    clock: { now: () => new Date(), offset: undefined },
    channel: {
      tell: (_, message) => {
        for (const tab of [...tabs]) tab(structuredClone(message));
      },
      listen: (_, told) => {
        tabs.add(told);
        return () => tabs.delete(told);
      },
    },
    load: async () => {
      if (served instanceof Error) throw served;
      return served;
    },
  };
});

afterEach(() => {
  for (const store of stores) store.close();
});

describe("what is done shows at once and is kept on the disk", () => {
  it("a called fish, marked unsent from the moment of Enter, with who called it", async () => {
    const store = await open();
    const kept = keepFish(store, RUN, call("437 890 f"), "pressure", []);
    const [fish] = store.view.document.captures;
    expect(fish).toMatchObject({ species: "wal", length_mm: 437, mass_g: 890, sex: "f", sex_evidence: "pressure" });
    expect(store.view.unsent.has(fish!.id)).toBe(true);
    await kept;
    expect(await queued()).toEqual(["capture.record"]);
    const [operation] = await outbox.queued();
    expect(operation).toMatchObject({ id: fish!.id, person: "me", person_name: "Ada", state: "waiting" });
    expect(operation!.row).toMatchObject({ length: "437", length_unit: "mm", mass: "890", mass_unit: "g", sex: "f" });
  });

  it("a correction, a removal and its undoing, in their order", async () => {
    const store = await open();
    await keepFish(store, RUN, call("463"), "", []);
    const fish = store.view.document.captures[0]!;
    await correctFish(store, fish, call("496"), "", []);
    expect(store.view.document.captures[0]).toMatchObject({ id: fish.id, length_mm: 496 });
    await deleteFish(store, store.view.document.captures[0]!);
    expect(store.view.document.captures).toEqual([]);
    await restoreFish(store, { ...fish, length_mm: 496 });
    expect(store.view.document.captures[0]).toMatchObject({ length_mm: 496 });
    expect(await queued()).toEqual(["capture.record", "capture.edit", "capture.delete", "capture.restore"]);
  });

  it("a run has only what its gear has, whatever the run before had", async () => {
    const store = await open();
    const all = {
      volts: 210,
      amps: 9,
      pulse_hz: 30,
      pulse_width_ms: 4,
      ...NO_FIGURES,
      rods: 2,
      nets: 3,
      distance_m: 400,
    };
    await startRun(store, "s", "angling", all);
    await startRun(store, "s", "boat_electrofishing", all);
    const [angling, boat] = store.view.document.runs.slice(-2);
    expect(angling).toMatchObject({ volts: null, pulse_hz: null, rods: 2, nets: null, distance_m: null });
    expect(boat).toMatchObject({ volts: 210, pulse_hz: 30, rods: null, nets: null, distance_m: 400 });
    expect((await rows()).slice(-2)).toMatchObject([
      { volts: null, rods: 2 },
      { volts: 210, rods: null },
    ]);
  });

  it("another of the crew takes over: entries are theirs until it goes back, also after the tablet was closed", async () => {
    const store = await open();
    await store.takeOver({ id: "tove", name: "Tove" });
    await keepFish(store, RUN, call("437"), "", []);
    const again = await open();
    expect(again.view.caller).toEqual({ id: "tove", name: "Tove" });
    await keepFish(again, RUN, call("438"), "", []);
    await again.takeOver(null);
    await keepFish(again, RUN, call("439"), "", []);
    expect((await outbox.queued()).map(({ person, by }) => [person, by])).toEqual([
      ["me", "tove"],
      ["me", "tove"],
      ["me", undefined],
    ]);
  });

  it("the next run takes the next number, and its end", async () => {
    const store = await open();
    await startRun(store, "s", "boat_electrofishing", {
      volts: 210,
      amps: null,
      pulse_hz: 30,
      pulse_width_ms: 4,
      ...NO_FIGURES,
    });
    const next = store.view.document.runs.at(-1)!;
    expect(next).toMatchObject({ number: 2, volts: 210, ended_at: null });
    await editRun(store, next, { ended_at: "2026-10-12T23:00:00Z" });
    expect(store.view.document.runs.at(-1)!.ended_at).toBe("2026-10-12T23:00:00Z");
  });

  it("a checklist that is signed with no signal, and is still signed when the tablet is opened again", async () => {
    const list = { code: "boat", version: 1, title: "Boat", lines: ["Life jackets."], note: "", signature: null };
    served = { ...emptyDeck(), checklists: [list] };
    const store = await open();
    await signChecklist(store, "boat", { name: "Ada", note: "", signed: true });
    expect(store.view.document.checklists[0]!.signature).toMatchObject({ name: "Ada", signed: true });
    served = new TypeError("Failed to fetch");
    const again = await open();
    expect(again.view.document.checklists[0]!.signature).toMatchObject({ name: "Ada", signed: true });
    expect(await queued()).toEqual(["checklist.sign"]);
  });

  it("releases of many fish, and one taken back", async () => {
    const store = await open();
    await keepFish(store, RUN, call("463"), "", []);
    await keepFish(store, RUN, call("350"), "", []);
    const ids = store.view.document.captures.map(({ id }) => id);
    await releaseFish(store, ids, { fate: "released" });
    await releaseFish(store, [ids[0]!], { fate: null });
    expect(store.view.document.captures.map(({ release }) => release)).toEqual(["", "released"]);
    expect((await outbox.queued()).at(-1)!.row).toEqual({ captures: [ids[0]], fate: null });
  });

  it("the clock's known error goes along", async () => {
    ports = { ...ports, clock: { now: () => new Date("2026-10-12T20:00:00Z"), offset: 7200 } };
    const store = await open();
    await keepFish(store, RUN, call("463"), "", []);
    const [operation] = await outbox.queued();
    expect(operation).toMatchObject({ device_time: "2026-10-12T20:00:00.000Z", clock_offset_s: 7200 });
  });
});

describe("a correction sends only what was changed", () => {
  const fork = { length_text: "17 1/4", length_unit: "in", length_mm: 438.1, length_type: "FL" };
  const again = (change: Parameters<typeof capture>[1], edit: (line: string) => string = (line) => line) => {
    const fish = capture("a", { ...fork, mass_text: "2.4", mass_unit: "lb", mass_g: 1088.62, ...change });
    return { fish, called: call(edit(callText(fish, { length_unit: "mm", mass_unit: "g" }))) };
  };

  it("and nothing where the line was left as it stood", async () => {
    const store = await open();
    const { fish, called } = again({ sex: "f", sex_evidence: "pressure", note: "scar", questions: [{ code: "q" }] });
    expect(called).toMatchObject({ lengthType: "FL", length: { value: 438.1 }, mass: { value: 1088.62 } });
    await correctFish(store, fish, called, "pressure", []);
    expect(await queued()).toEqual([]);
  });

  it.each([
    ["the sex", (line: string) => `${line} f`, { sex: "f", sex_evidence: "" }],
    ["the note", (line: string) => `${line} ; scar`, { note: "scar" }],
    [
      "the mass",
      (line: string) => line.replace("2.4 lb", "2.5 lb"),
      { mass: "2.5 lb", mass_unit: "lb", questions: [] },
    ],
    ["the kind of length", (line: string) => line.replace("fl", "tl"), { length_type: "TL" }],
  ])("%s", async (_, edit, row) => {
    const store = await open();
    const { fish, called } = again({}, edit);
    await correctFish(store, fish, called, "", []);
    expect(await rows()).toEqual([{ capture: "a", ...row }]);
    expect(store.view.document.captures[0]).toMatchObject({ length_text: "17 1/4", length_unit: "in" });
  });

  it("keeps the kind of length where only its figure was wrong", async () => {
    const store = await open();
    const { fish, called } = again({}, (line) => line.replace("17 1/4 in", "17 3/4 in"));
    await correctFish(store, fish, called, "", []);
    expect(await rows()).toEqual([{ capture: "a", length: "17 3/4 in", length_unit: "in", questions: [] }]);
    expect(store.view.document.captures[0]).toMatchObject({ length_type: "FL", length_mm: 450.9, mass_text: "2.4" });
  });

  it("offers the figure itself where nobody knows the unit any more", () => {
    const { called } = again({ length_unit: "", length_basis: "estimated" });
    expect(called.length).toMatchObject({ value: 438.1, estimated: true });
  });
});

describe("a scanned fish", () => {
  const fish = {
    id: "f1",
    species: "wal",
    marks: [{ kind: "pit" as const, number: "999000000012345", unknown: false }],
    times_met: 1,
    notes: [],
    last: { at: "", outing: "o", site: "s", days: 365, length_mm: 400, months: 12 },
  };
  const pit = { kind: "pit" as const, number: "999000000012345", meaning: "known" as const, fish };

  it("is recorded with every number that was read, for the server to recognise", async () => {
    const store = await open();
    const tbar = { kind: "tbar" as const, number: "W9", meaning: "foreign" as const };
    await keepFish(store, RUN, call("999000000012345 #W9 463"), "", [], [pit, tbar]);
    expect(store.view.document.captures[0]).toMatchObject({ fish: "f1", scanned: "known" });
    expect(store.view.document.captures[0]!.scans).toHaveLength(2);
    expect((await rows())[0]).toMatchObject({
      scanned: "number",
      scans: [
        { kind: "pit", number: "999000000012345" },
        { kind: "tbar", number: "W9" },
      ],
    });
  });

  it("with numbers of two fish is neither of them", async () => {
    const store = await open();
    const other = { ...pit, kind: "tbar" as const, number: "W9", fish: { ...fish, id: "f2" } };
    await keepFish(store, RUN, call("999000000012345 #W9 463"), "", [], [pit, other]);
    expect(store.view.document.captures[0]).toMatchObject({ fish: null, scanned: "known" });
  });

  it("that was bare gets its tags after it is recorded, and may leave dead", async () => {
    const store = await open();
    const tags = [
      { kind: "pit" as const, number: "999000000012346", meaning: "stock" as const, batch: "1" },
      { kind: "tbar" as const, number: "W1001", meaning: "stock" as const, batch: "1" },
    ];
    await keepFish(store, RUN, call("none 463 dead"), "", [], tags);
    expect(await queued()).toEqual(["capture.record", "tag.place", "tag.place", "release.set"]);
    const [kept] = store.view.document.captures;
    expect(kept).toMatchObject({ scanned: "none", release: "dead" });
    expect(kept!.placed.map(({ number }) => number)).toEqual(["999000000012346", "W1001"]);
  });
});

describe("a tablet closed and opened again", () => {
  it("gives a fish that was kept a tag, also one that nobody has entered, and it is known from then on", async () => {
    const store = await open();
    await keepFish(store, RUN, call("437"), "", []);
    const [kept] = store.view.document.captures;
    await giveTag(store, kept!, { kind: "tbar", number: "W1450" }, false);
    expect(await queued()).toEqual(["capture.record", "tag.take_in", "capture.edit", "tag.place"]);
    const [tagged] = store.view.document.captures;
    expect(tagged).toMatchObject({
      scanned: "none",
      length_mm: kept!.length_mm,
      placed: [{ kind: "tbar", number: "W1450" }],
    });
    expect(store.view.document.marks.stock.map(({ number }) => number)).toContain("W1450");
  });

  it("shows what was done and not yet sent, with and without an answer from the server", async () => {
    const store = await open();
    await keepFish(store, RUN, call("463"), "", []);
    store.close();
    for (const server of [served, new TypeError("Failed to fetch")]) {
      served = server;
      const again = await open();
      expect(again.view.document.captures.map(({ length_mm }) => length_mm)).toEqual([463]);
      expect(again.view.unsent.size).toBe(1);
    }
  });

  it("does not show a fish twice that the server has as well", async () => {
    const store = await open();
    await keepFish(store, RUN, call("463"), "", []);
    const [fish] = store.view.document.captures;
    served = { ...(served as Deck), captures: [fish!] };
    const again = await open();
    expect(again.view.document.captures).toHaveLength(1);
  });

  it.each(["502", "503", "401", "a page of a captive portal"])("opens as last known where %s answers", async (what) => {
    await (await open()).reload();
    served = new Error(`The server answered ${what}.`);
    const again = await open();
    expect(again.view.stale).toContain(what);
    await keepFish(again, RUN, call("463"), "", []);
    served = { ...emptyDeck(), runs: [RUN] };
    signalled();
    await expect.poll(() => again.view.stale).toBe(null);
    expect(again.view.document.captures).toHaveLength(1);
  });

  it("that was never here says so where there is no answer", async () => {
    served = new TypeError("Failed to fetch");
    await expect(open()).rejects.toThrow("Failed to fetch");
  });
});

describe("a network that takes requests and never answers", () => {
  it("does not hold up the kept deck, and what is called meanwhile stays when it answers after all", async () => {
    await (await open()).reload();
    let answer: (deck: Deck) => void = () => undefined;
    ports.load = () =>
      new Promise((resolve) => {
        answer = resolve;
      });
    const store = await DeckStore.open(OUTING_ID, ME, ports);
    stores.push(store);
    await keepFish(store, RUN, call("463"), "", []);
    expect(store.view.document.captures).toHaveLength(1);
    answer({ ...emptyDeck(), runs: [RUN] });
    await store.asking;
    expect(store.view.document.captures).toHaveLength(1);
    expect(store.view.stale).toBe(null);
  });
});

describe("who took over", () => {
  const tove = { id: "tove", name: "Tove" };

  it("calls for nobody else who signs in on the same tablet", async () => {
    await (await open()).takeOver(tove);
    const of = await DeckStore.open(OUTING_ID, { id: "ben", name: "Ben" }, ports);
    stores.push(of);
    expect(of.view.caller).toBe(null);
    await keepFish(of, RUN, call("463"), "", []);
    expect((await outbox.queued()).map(({ person, by }) => [person, by])).toEqual([["ben", undefined]]);
  });
});

describe("while the deck is read anew", () => {
  it.each(["still queued", "sent meanwhile"])(
    "a fish that is kept stays, on the screen and in the kept deck: %s",
    async (how) => {
      const store = await open();
      await keepFish(store, RUN, call("350"), "", []);
      const asItWas = served as Deck;
      let answer: (deck: Deck) => void = () => undefined;
      ports.load = () => new Promise((give) => (answer = give));
      const reading = store.reload();
      await expect.poll(() => answer.length).toBe(1);
      await keepFish(store, RUN, call("463"), "", []);
      if (how === "sent meanwhile") await settleAll();
      answer(asItWas);
      await reading;
      const lengths = ({ captures }: Deck) => captures.map(({ length_mm }) => length_mm);
      expect(lengths(store.view.document)).toEqual([350, 463]);
      ports.load = async () => Promise.reject(new TypeError("Failed to fetch"));
      expect(lengths((await open()).view.document)).toEqual([350, 463]);
    },
  );
});

it("two tabs of one outing show the same fish", async () => {
  const [first, second] = [await open(), await open()];
  await keepFish(first, RUN, call("463"), "", []);
  await keepFish(second, RUN, call("350"), "", []);
  const lengths = (store: DeckStore) => store.view.document.captures.map(({ length_mm }) => length_mm);
  expect(lengths(first)).toEqual([463, 350]);
  expect(lengths(second)).toEqual([463, 350]);
});

it("takes a photo back for which the device has no room, and says why", async () => {
  ports.outbox = { ...outbox, add: () => Promise.reject(new Error("QuotaExceededError")) };
  const store = await open();
  await expect(addPhoto(store, { shows: "place", jpeg: "x" })).rejects.toThrow("QuotaExceededError");
  expect(store.view.document.photos ?? []).toEqual([]);
});

describe("a refused entry", () => {
  const id = "01900000-0000-7000-8000-0000000000aa";
  const row = { run: RUN.id, species: "wal", length: "4630" };
  beforeEach(async () => {
    await enqueue(
      {
        ...WAITS,
        id,
        kind: "capture.record",
        row,
        shown: capture(id, { length_text: "4630", length_mm: 4630 }),
        state: "refused",
        error: { code: "length_impossible", message: "Too long.", field: "length" },
      },
      {
        ...WAITS,
        id: "tag",
        kind: "tag.place",
        row: { capture: id, kind: "pit", number: "9" },
        shown: capture(id),
        state: "waiting",
      },
      { ...WAITS, id: "left", kind: "release.set", row: { captures: ["other", id], code: "alive" }, state: "waiting" },
    );
  });

  it("is given up only when told to, with what belongs to it, and that can be taken back", async () => {
    const store = await open();
    expect(store.view.refused.map(({ error }) => error?.code)).toEqual(["length_impossible"]);
    expect([...store.view.inDoubt]).toEqual([id]);
    const { n, takeBack } = await store.discard(store.view.refused[0]!);
    expect(n).toBe(2);
    expect(store.view.document.captures).toEqual([]);
    expect(await rows()).toEqual([{ captures: ["other"], code: "alive" }]);
    await takeBack();
    expect(store.view.document.captures).toHaveLength(1);
    expect(await queued()).toEqual(["capture.record", "tag.place", "release.set"]);
  });

  it("is mended where it stands: called again, it goes under its own key", async () => {
    const store = await open();
    const [fish] = store.view.document.captures;
    await correctFish(store, fish!, call("wal 463"), "", []);
    const [mended] = await outbox.queued();
    expect(mended).toMatchObject({ id, kind: "capture.record", state: "waiting", row: { run: RUN.id, length: "463" } });
    expect(mended!.error).toBeUndefined();
    expect(await queued()).toHaveLength(3);
    expect(store.view.document.captures[0]).toMatchObject({ id, length_mm: 463 });
    await expect.poll(() => store.view.refused).toEqual([]);
  });
});
