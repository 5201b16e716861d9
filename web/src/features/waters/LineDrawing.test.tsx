import { act } from "react";
import { beforeEach, describe, expect, it } from "vitest";
import { change, field, press, show } from "@/testing/screen";
import { LineDrawing, readPoint } from "./LineDrawing";

const river = {
  water: "r",
  name: "River",
  kind: "river" as const,
  line: [
    [10, 50],
    [10.4, 50.1],
  ],
};
let kept: File[];
const draw = (ring: boolean, layers = [river], at: [number, number] | null = null) =>
  show(
    <LineDrawing
      water="new"
      at={at}
      layers={layers}
      ring={ring}
      busy={false}
      onKeep={(file) => void kept.push(file)}
      onLeave={() => undefined}
    />,
  );
const type = (text: string) => {
  change(field("A point as longitude, latitude (degrees)"), text);
  press("Add the point");
};
const button = (words: string) =>
  [...document.querySelectorAll("button")].find((each) => each.textContent?.trim() === words)!;
const map = () => document.querySelector("svg[role=img]")!;
const click = (clientX: number, clientY: number) =>
  act(() => void map().dispatchEvent(new MouseEvent("click", { bubbles: true, clientX, clientY })));
const coordinates = async () => {
  const reader = new FileReader();
  reader.readAsText(kept[0]!);
  await new Promise((resolve) => reader.addEventListener("load", resolve));
  return JSON.parse(String(reader.result)).coordinates;
};

beforeEach(() => {
  kept = [];
});

describe("drawing a water's line", () => {
  it("keeps typed points in their order, and takes the last one out", async () => {
    draw(false);
    for (const point of ["10.1, 50.02", "10.2 50.03", "10.3;50.04"]) type(point);
    press("Take the last point out");
    press("Keep it as the line");
    expect(await coordinates()).toEqual([
      [10.1, 50.02],
      [10.2, 50.03],
    ]);
  });
  it("closes a shore", async () => {
    draw(true);
    for (const point of ["10.1, 50.02", "10.2, 50.03", "10.15, 50.05"]) type(point);
    press("Keep it as the line");
    expect(await coordinates()).toHaveLength(4);
    expect((await coordinates()).at(-1)).toEqual([10.1, 50.02]);
  });
  it("sets a point where the map is clicked: right is east, down is south", async () => {
    draw(false);
    click(300, 200);
    click(600, 300);
    expect(map().getAttribute("aria-label")).toBe("Drawing, 2 points");
    press("Keep it as the line");
    const [[west, north], [east, south]] = await coordinates();
    expect(east).toBeGreaterThan(west);
    expect(south).toBeLessThan(north);
    expect(west > 10 && east < 10.4 && south > 49.9 && north < 50.2).toBe(true);
  });
  it("zooms about the middle, so that a click there stays where it was", async () => {
    draw(false);
    click(450, 210);
    press("+");
    press("+");
    click(450, 210);
    press("−");
    press("Whole");
    click(450, 210);
    press("Keep it as the line");
    const [first, second, third] = await coordinates();
    for (const axis of [0, 1]) {
      expect(second[axis]).toBeCloseTo(first[axis], 9);
      expect(third[axis]).toBeCloseTo(first[axis], 9);
    }
  });
  it("keeps nothing of one point, and asks for two where no water has a line", () => {
    draw(false, []);
    expect(document.body.textContent).toContain("type the first two points");
    type("10, 50");
    expect(button("Keep it as the line").disabled).toBe(true);
    type("10.1, 50");
    expect(button("Keep it as the line").disabled).toBe(false);
    expect(map()).toBeTruthy();
  });
  it("begins at the water's own point, not at the waters of elsewhere", async () => {
    draw(false, [river], [-31.2, 44.9]);
    click(450, 210);
    click(460, 210);
    press("Keep it as the line");
    const [[lon, lat]] = await coordinates();
    expect(Math.abs(lon + 31.2)).toBeLessThan(0.05);
    expect(Math.abs(lat - 44.9)).toBeLessThan(0.05);
  });
  it("reads a point, longitude first", () => {
    expect(readPoint(" -31.2, 44.9 ")).toEqual([-31.2, 44.9]);
    expect(readPoint("0 0")).toEqual([0, 0]);
    for (const text of ["", "44.9", "a, b", "10, 95", "190, 10", "1, 2, 3", "1,"]) expect(readPoint(text)).toBeNull();
  });
});
