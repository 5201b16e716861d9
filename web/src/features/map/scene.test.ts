import { describe, expect, it } from "vitest";
import { flatten, WHOLE } from "./flat";
import { nearest, notLater, plot, sceneOf, shownAt } from "./scene";

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
const plotted = plot(met, [], flat);
const all = shownAt(met.at, 30 * DAY, null);

describe("legs", () => {
  it("go from meeting to meeting, none within the errors of both", () => {
    expect([...plotted.legEnd]).toEqual([2, 4]);
    expect([plotted.legX[0], plotted.legY[0]]).toEqual([plotted.x[0], plotted.y[0]]);
  });

  it("begin where the fish was let go", () => {
    const elsewhere = plot(met, [{ point: 0, lon: 10.05, lat: 60.01 }], flat);
    expect([elsewhere.legX[0], elsewhere.legY[0]]).toEqual([flat.x(10.05), flat.y(60.01)]);
  });
});

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
    expect(sceneOf(met, plotted, all, WHOLE, size, null).marks).toEqual([4, 3, 2, 0]);
    expect(sceneOf(met, plotted, all, { k: 1, x: 5000, y: 0 }, size, null).marks).toEqual([]);
  });

  it("is found by a touch near it", () => {
    expect(nearest(plotted, all, WHOLE, plotted.x[2]! + 5, plotted.y[2]!)).toBe(2);
    expect(nearest(plotted, all, WHOLE, 1, 1)).toBe(-1);
    expect(nearest(plotted, shownAt(met.at, 5 * DAY, null), WHOLE, plotted.x[2]!, plotted.y[2]!)).toBe(-1);
  });
});
