import { describe, expect, it } from "vitest";
import { emptyDeck } from "@/testing/deck";
import shared from "../../../../../../tests/shared/baths.json";
import { adviceFor, bathAfter, bathTrial, inductionOf, timesToLie, unfitWater } from "../baths";

describe("baths as core has them", () => {
  it.each(shared.baths)("$name", ({ steps, litres, mg_l, ...more }) => {
    const found = bathAfter(
      steps.map(([at_s, what, details], place) => ({
        key: String(place),
        at_s: at_s as number,
        what: what as string,
        details: details as Record<string, unknown>,
      })),
    );
    expect(found.litres).toBe(litres);
    if (mg_l !== null) expect(found.mg_l).toBeCloseTo(mg_l, 9);
    expect(found.twice).toEqual(("twice" in more ? (more.twice ?? []) : []).map(String));
    expect(found.undone).toEqual(("undone" in more ? (more.undone ?? []) : []).map(String));
  });

  it.each(shared.advice)("from $mg_l to $target mg/L", ({ litres, mg_l, stock_mg_ml, target, ...wanted }) => {
    const found = adviceFor({ ...bathAfter([]), litres, mg_l, stock_mg_ml }, target)!;
    expect(found.add_ml).toBeCloseTo(wanted.add_ml, 9);
    expect(found.exchange_l).toBeCloseTo(wanted.exchange_l, 9);
  });
});

it.each(shared.times_to_lie)("times to lie: $name", ({ details, times }) => {
  expect(timesToLie(details as [number, number | null][])).toEqual(times);
});

describe("water that does not suit fish", () => {
  const read = (id: string, details: Record<string, string | number>, minute: number) => ({
    id,
    kind: "bath_read",
    details,
    run: null,
    capture: null,
    device_time: `2026-10-12T22:${minute}:00Z`,
  });
  const well = { litres: 80, most_fish: 12, most_g: 4800, least_oxygen_mg_l: 6, most_degrees: 3 };
  const water = { temperature_c: 9 } as never;
  const deck = (...events: ReturnType<typeof read>[]) => ({
    ...emptyDeck(),
    orders: { well } as never,
    water_readings: [water],
    events,
  });

  it("is told of each tank by what was read last there", () => {
    const low = read("a", { bath: "Live well", oxygen_mg_l: 5.2, temperature_c: 12.5 }, 10);
    expect(unfitWater(deck(low))).toEqual([
      "Live well: oxygen 5.2 mg/L, at least 6. Aerate or exchange.",
      "Live well: 3.5 °C apart from the water, at most 3. Exchange slowly.",
    ]);
    expect(unfitWater(deck(low, read("b", { bath: "Live well", oxygen_mg_l: 8, temperature_c: 10 }, 20)))).toEqual([]);
    expect(unfitWater(deck(low, read("b", { bath: "Bath", oxygen_mg_l: 8 }, 20)))).toHaveLength(2);
    expect(unfitWater({ ...deck(low), orders: null })).toEqual([]);
  });
});

it("says how long a fish took to lie still, from its last way into the bath", () => {
  const at = (second: number, kind: string, details: Record<string, string>) =>
    ({ id: String(second), kind, details, device_time: new Date(1000 * second).toISOString() }) as never;
  const stages = [at(30, "stage", { stage: "2" }), at(45, "stage", { stage: "4" }), at(60, "stage", { stage: "5" })];
  expect(inductionOf([at(0, "lane", { lane: "bath" }), ...stages])).toBe(45);
  expect(inductionOf([at(0, "lane", { lane: "bath" }), at(40, "lane", { lane: "bath" }), ...stages])).toBe(5);
  expect(inductionOf(stages)).toBeNull();
  expect(inductionOf([at(0, "lane", { lane: "well" }), ...stages])).toBeNull();
});

it.each(shared.trials)("trial of a bath: %o", ({ inductions_s, wanted, goal_s, fast_s, trial }) =>
  expect(bathTrial(inductions_s, wanted, goal_s, fast_s)).toEqual(trial),
);
