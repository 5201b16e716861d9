import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { capture, emptyDeck, RUN } from "@/testing/deck";
import shared from "../../../../../../tests/shared/orders.json";
import { ambientRead, beyondLimits, beyondOrders, doneOf, goalIn, goalNow, toSign } from "../orders";

type Deck = Schemas["Deck"];

const ORDERS: Schemas["Orders"] = {
  survey: "Marks, spring",
  lines: [],
  electro: {
    goals: [100, 150, 200, 400].map((us_cm) => ({ us_cm, volts: 50_000 / us_cm, amps: us_cm / 20, most_volts: 300 })),
    today_us_cm: 160,
    ambient_shares: Array.from({ length: 41 }, (_, celsius) => 1.02 ** (celsius - 25)),
    pulse_hz: 30,
    pulse_width_ms: 4,
    most_amps: 16,
    most_hz: 60,
  },
  well: { litres: 100, most_fish: 12, most_g: 6000 },
  mark_from_mm: 250,
};

const deck = (change: Partial<Deck> = {}): Deck => ({ ...emptyDeck(), orders: ORDERS, ...change });
const reading = (
  ambient_us_cm: number | null,
  specific_us_cm: number | null = null,
  temperature_c: number | null = 9,
): Deck["water_readings"][number] => ({
  id: "w",
  outing: "o",
  run: null,
  device_time: "2026-10-12T21:00:00Z",
  temperature_c,
  ambient_us_cm,
  specific_us_cm,
  oxygen_mg_l: null,
  secchi_m: null,
  more: {},
});

describe("as core does", () => {
  const { from_0, per_degree, n } = shared.shares;
  const shares = Array.from({ length: n }, (_, celsius) => from_0 + per_degree * celsius);
  it.each(shared.ambient)("ambient conductivity: %o", ({ us_cm, ...read }) => {
    const found = ambientRead(read, shares);
    us_cm === null ? expect(found).toBeNull() : expect(found).toBeCloseTo(us_cm, 9);
  });
  it.each(shared.goal)("the goal in a water: %o", ({ us_cm, row, volts, most_volts }) =>
    expect(goalIn(shared.goals, us_cm)).toMatchObject({ us_cm: row, volts, most_volts }),
  );
  it.each(shared.beyond.cases)("settings beyond the plan: %o", ({ beyond, volts, ...others }) =>
    expect(beyondLimits({ volts: volts ?? Number.NaN, ...others }, shared.beyond.most)).toEqual(beyond),
  );
});

it("takes the goal of the water as it was read last, by ratio; a reading without ambient conductivity is none", () => {
  expect(goalNow(deck())).toEqual({ goal: { ...ORDERS.electro!.goals[1], volts: 300 }, read: false });
  const read = deck({ water_readings: [reading(110), reading(290), reading(null)] });
  expect(goalNow(read)).toEqual({ goal: ORDERS.electro!.goals[3], read: true }); // 400/290 is nearer than 290/200
  // read at 25 C only: ambient by the share at 9.4 C, 1.02^(9 - 25); with no temperature it says nothing
  const specific = (...more: [number, number | null]) => goalNow(deck({ water_readings: [reading(null, ...more)] }))!;
  expect(specific(560, 9.4)).toEqual({ goal: ORDERS.electro!.goals[3], read: true }); // 408
  expect(specific(280, 9.4)).toEqual({ goal: ORDERS.electro!.goals[2], read: true }); // 204
  expect(specific(560, null)).toEqual({ goal: { ...ORDERS.electro!.goals[1], volts: 300 }, read: false });
  expect(goalNow(emptyDeck())).toBeNull();
});

it("gives a water between two rows the stricter limit of the two", () => {
  const most = (us_cm: number) => (us_cm > 200 ? 400 : 800);
  const goals = [100, 200, 210, 400].map((us_cm) => ({ us_cm, volts: 600, amps: 5, most_volts: most(us_cm) }));
  const at = (us_cm: number) =>
    goalNow(deck({ orders: { ...ORDERS, electro: { ...ORDERS.electro!, goals } }, water_readings: [reading(us_cm)] }))!
      .goal;
  expect([at(200).most_volts, at(201).most_volts, at(150).most_volts, at(900).most_volts]).toEqual([
    800, 400, 800, 400,
  ]);
  expect(at(201).volts).toBe(400);
});

it("says which settings the plan does not allow, and nothing without a plan", () => {
  expect(beyondOrders(deck(), { volts: 300, amps: 16, pulse_hz: 60 })).toEqual({});
  const over = beyondOrders(deck(), { volts: 301, amps: 17, pulse_hz: 120 });
  expect(over.volts).toBe("The plan allows at most 300 V in this water.");
  expect(over.amps).toContain("16 A");
  expect(over.pulse_hz).toContain("60 Hz");
  expect(beyondOrders(emptyDeck(), { volts: 2000, amps: 200, pulse_hz: 1000 })).toEqual({});
  expect(beyondOrders(deck(), { volts: Number.NaN, amps: 0, pulse_hz: 0 })).toEqual({});
});

const site = { id: "s", name: "K1", zone: "Lower river", river_km: 1 };
it("counts what a target asks for", () => {
  const captures = [
    capture("a", { length_mm: 300, placed: [{ kind: "pit", number: "1", body_site: "", quality: "" }] }),
    capture("b", { length_mm: 240, placed: [{ kind: "pit", number: "2", body_site: "", quality: "" }] }),
    capture("c", { length_basis: "estimated" }),
    capture("d", { length_mm: null, length_basis: "" }),
    capture("e", { species: "yep" }),
  ];
  const done = (what: "measured" | "marked", from_mm: number | null, zone = "") =>
    doneOf(deck({ captures, runs: [RUN], sites: [site] }), { species: "wal", what, from_mm, zone });
  expect(done("measured", null)).toBe(2);
  expect(done("marked", 250)).toBe(1);
  expect(done("marked", null)).toBe(2);
  expect(done("marked", null, "Lower river")).toBe(2);
  expect(done("marked", null, "Upper river")).toBe(0);
});

it("leaves nothing to sign where every list is signed or passed over", () => {
  const list = { code: "boat", version: 1, title: "Boat", lines: [], note: "" };
  const signature = { signed: false, name: "Ada", note: "from the bank", at: "2026-10-12T21:00:00Z" };
  const both = [
    { ...list, signature: null },
    { ...list, code: "night", signature },
  ];
  expect(toSign(deck({ checklists: both })).map(({ code }) => code)).toEqual(["boat"]);
});
