import { expect, it } from "vitest";
import type { Picture } from "./draw";
import { flatten, WHOLE } from "./flat";
import { plot, sceneOf } from "./scene";
import { toSvg } from "./svg";

const size = { width: 900, height: 500 };
const met = {
  fish: [0, 1, 0],
  kind: [0, 0, 2],
  at: [0, 1, 2],
  lon: [10, 10.1, 10],
  lat: [60, 60.02, 60.1],
  error_m: [50, 50, 50],
};
const flat = flatten(met.lon, met.lat, size);
const plotted = plot(met, { end: [2], lon: [10], lat: [60] }, flat);
const all = { from: 0, to: 3 };

it("is the same as SVG: a mark each, legs, names that XML would stumble over", () => {
  const inks = {
    data: "#123456",
    ink: "#000",
    signal: "#f00",
    muted: "#999",
    line: "#ccc",
    wash: "#eee",
    raised: "#fff",
  };
  const picture = {
    met,
    plotted,
    scene: sceneOf(met, plotted, all, WHOLE, size, null),
    ground: [
      {
        name: "Beck & <Tarn>",
        lake: false,
        line: [
          [100, 100],
          [200, 200],
        ],
      },
    ],
    flat,
    view: WHOLE,
    size,
    inks: { ...inks, font: '"A" sans' },
  } as unknown as Picture;
  const drawn = new DOMParser().parseFromString(toSvg(picture), "image/svg+xml");
  expect(drawn.querySelector("parsererror")).toBeNull();
  expect(drawn.querySelectorAll("text")[1]!.textContent).toMatch(/km|m$/);
  expect(drawn.querySelector("text")!.textContent).toBe("Beck & <Tarn>");
  expect(drawn.querySelectorAll("circle[fill='#123456']")).toHaveLength(2);
  expect(drawn.querySelectorAll("path[fill='#f00']")).toHaveLength(1);
  expect(drawn.querySelector("path[stroke='#999']")!.getAttribute("d")!.match(/M/g)).toHaveLength(1);
});
