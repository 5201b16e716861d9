import { describe, expect, it } from "vitest";
import { beside, FARTHEST, flatten, NEAREST, pinched, WHOLE, zoomed } from "./flat";

const size = { width: 900, height: 500 };

describe("a flat picture", () => {
  it("shows all of it, true to scale: a degree of longitude is as much shorter as the latitude says", () => {
    const flat = flatten([10, 10.1], [60, 60.1], size);
    const [wide, high] = [flat.x(10.1) - flat.x(10), flat.y(60) - flat.y(60.1)];
    expect(wide / high).toBeCloseTo(Math.cos((60.05 * Math.PI) / 180), 6);
    for (const [lon, lat] of [
      [10, 60],
      [10.1, 60.1],
    ]) {
      expect(flat.x(lon!)).toBeGreaterThan(0);
      expect(flat.x(lon!)).toBeLessThan(size.width);
      expect(flat.y(lat!)).toBeGreaterThan(60); // below the buttons
      expect(flat.y(lat!)).toBeLessThan(size.height);
    }
    // 0.1 degrees of latitude are 11.12 km
    expect(high * flat.metresPerPixel).toBeCloseTo(11_119.5, 0);
  });

  it("keeps what lies across the antimeridian together", () => {
    expect(beside(-179.9, 179.9)).toBeCloseTo(180.1);
    const flat = flatten([179.95, -179.95], [0, 0], size);
    expect(flat.x(-179.95) - flat.x(179.95)).toBeGreaterThan(0);
    expect((flat.x(-179.95) - flat.x(179.95)) * flat.metresPerPixel).toBeCloseTo(11_119.5, 0);
  });

  it("shows a single place with some ground about it", () => {
    const flat = flatten([10], [60], size);
    expect([flat.x(10), flat.y(60)]).toEqual([450, 262]);
    expect(flat.metresPerPixel).toBeGreaterThan(0.1);
  });
});

describe("a view", () => {
  it("zooms about a point that stays where it is, up to both ends", () => {
    const near = zoomed(WHOLE, 2, 300, 200);
    expect([near.x + near.k * 300, near.y + near.k * 200]).toEqual([300, 200]);
    expect(zoomed(near, 0.5, 300, 200)).toEqual(WHOLE);
    expect(zoomed(WHOLE, 1e9, 0, 0).k).toBe(NEAREST);
    expect(zoomed(WHOLE, 1e-9, 0, 0).k).toBe(FARTHEST);
  });

  it("follows two fingers: what lay under them lies under them", () => {
    const before = [
      { x: 100, y: 100 },
      { x: 200, y: 100 },
    ] as const;
    const now = [
      { x: 150, y: 200 },
      { x: 350, y: 200 },
    ] as const;
    const { k, x, y } = pinched(WHOLE, before, now);
    expect(k).toBe(2);
    for (const n of [0, 1] as const) expect([x + k * before[n].x, y + k * before[n].y]).toEqual([now[n].x, now[n].y]);
  });
});
