import { describe, expect, it } from "vitest";
import { flatten, WHOLE } from "./flat";
import { fishAt, notLater, plot, sceneOf, shownAt } from "./scene";

const size = { width: 900, height: 500 };
const DAY = 86_400;
/** Fish 0 at 60.00, then 60.05, then 60.10; fish 1 twice within its errors. */
const met = {
  fish: [0, 1, 0, 1, 0],
  kind: [0, 0, 0, 0, 2],
  at: [0, 1, 10, 20, 30].map((day) => day * DAY),
  lon: [10, 10.1, 10, 10.1, 10],
  lat: [60, 60.02, 60.05, 60.0201, 60.1],
  error_m: [50, 500, 50, 500, 1000],
};
const flat = flatten(met.lon, met.lat, size);
/** Fish 0 went twice; fish 1 stayed within its errors. */
const legs = { end: [2, 4], lon: [10, 10], lat: [60, 60.05] };
const plotted = plot(met, legs, flat);
const all = shownAt(met.at, 30 * DAY, null);

describe("what is shown", () => {
  it("is what was met by then, or in the days before", () => {
    expect(notLater(met.at, 10 * DAY)).toBe(3);
    expect(shownAt(met.at, 10 * DAY, null)).toEqual({ from: 0, to: 3 });
    expect(shownAt(met.at, 30 * DAY, 15 * DAY)).toEqual({ from: 3, to: 5 });
    expect(shownAt(met.at, -1, null)).toEqual({ from: 0, to: 0 });
  });

  it("holds legs that end in it, and those of the chosen fish apart", () => {
    expect(sceneOf(met, plotted, all, WHOLE, size, null).legs).toHaveLength(8);
    const followed = sceneOf(met, plotted, all, WHOLE, size, 0);
    expect([followed.legs.length, followed.chosenLegs.length, followed.chosenMarks]).toEqual([0, 8, [4, 2, 0]]);
    expect(sceneOf(met, plotted, shownAt(met.at, 12 * DAY, null), WHOLE, size, null).legs).toHaveLength(4);
  });

  it("draws one of marks that lie on each other, the newest, and none out of sight", () => {
    const { marks, counts } = sceneOf(met, plotted, all, WHOLE, size, null);
    expect([marks, counts]).toEqual([
      [4, 3, 2, 0],
      [1, 2, 1, 1],
    ]);
    expect(sceneOf(met, plotted, all, { k: 1, x: 5000, y: 0 }, size, null).marks).toEqual([]);
  });

  it("gives a fish to a touch, and another to the next touch of the same place", () => {
    const near = { x: plotted.x[3]! + 5, y: plotted.y[3]! };
    const touch = (chosen: number | null, at = near, shown = all) => fishAt(met, plotted, shown, WHOLE, at, chosen);
    expect(touch(null)).toBe(1);
    expect(touch(1)).toBe(1);
    expect(touch(1, { x: 1, y: 1 })).toBeNull();
    expect(touch(null, { x: plotted.x[2]!, y: plotted.y[2]! }, shownAt(met.at, 5 * DAY, null))).toBeNull();
    const together = { ...met, lon: met.lon.map(() => 10), lat: met.lat.map(() => 60) };
    const heap = plot(together, { end: [2], lon: [10.5], lat: [60] }, flatten(together.lon, together.lat, size));
    const at = { x: heap.x[0]!, y: heap.y[0]! };
    const next = (chosen: number | null) => fishAt(together, heap, all, WHOLE, at, chosen);
    // who moved comes first
    expect([next(null), next(0), next(1)]).toEqual([0, 1, 0]);
  });
});
