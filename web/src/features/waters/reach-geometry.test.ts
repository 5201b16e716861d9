import { describe, expect, it } from "vitest";
import { pointAt, projection, roundLength, stretch } from "./reach-geometry";

const reach = {
  line: [
    [0, 0],
    [0.01, 0],
    [0.01, 0.02],
  ],
  along_m: [0, 1113, 3324],
};

describe("the drawing of a reach", () => {
  it("keeps its shape within the picture", () => {
    const { place, metresPerPixel } = projection(reach.line, { width: 300, height: 300 });
    const corners = reach.line.map(([lon, lat]) => place(lon!, lat!));
    expect(corners.flat().every((each) => each >= 20 && each <= 280)).toBe(true);
    const [start, bend, end] = corners as [[number, number], [number, number], [number, number]];
    const pixels = Math.hypot(end[0] - bend[0], end[1] - bend[1]);
    expect(pixels * metresPerPixel).toBeCloseTo(0.02 * 111_195, -1);
    expect(Math.hypot(bend[0] - start[0], bend[1] - start[1]) / pixels).toBeCloseTo(0.5, 2);
    expect(bend[1]).toBeGreaterThan(end[1]); // north is up
  });
  it("finds the place under a pixel again", () => {
    const { place, unplace } = projection(reach.line, { width: 900, height: 420 });
    const [lon, lat] = unplace(...place(0.0042, 0.0137));
    expect([lon, lat]).toEqual([expect.closeTo(0.0042, 9), expect.closeTo(0.0137, 9)]);
  });
  it("cuts a stretch out with its bends", () => {
    expect(stretch(reach, 500, 2000)).toHaveLength(3);
    expect(stretch(reach, 500, 2000)[1]).toEqual([0.01, 0]);
    expect(pointAt(reach, 0)).toEqual([0, 0]);
    expect(pointAt(reach, 9999)).toEqual([0.01, 0.02]);
    expect(pointAt(reach, 1113 / 2)[0]).toBeCloseTo(0.005);
  });
  it("takes round lengths for its scale", () => {
    expect([8700, 3400, 1900, 100].map(roundLength)).toEqual([5000, 2000, 1000, 100]);
  });
});
