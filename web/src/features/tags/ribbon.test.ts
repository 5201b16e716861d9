import { expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { ribbonOf } from "./ribbon";

const met = (at: string, length_mm: number | null) => ({ at, length_mm }) as Schemas["Encounter"];

it("places meetings by time and makes the fish thicker as it grows", () => {
  const { points } = ribbonOf(
    [met("2024-01-01T00:00:00Z", 300), met("2025-01-01T00:00:00Z", 450), met("2028-01-01T00:00:00Z", 600)],
    500,
    50,
    50,
  );
  expect(points.map(({ x }) => Math.round(x))).toEqual([50, 150, 450]); // a year of four, then three
  expect(points.map(({ half }) => half)).toEqual([15, 20.5, 26]);
});

it("grows evenly between measured lengths, and keeps the nearest beyond them", () => {
  const { points } = ribbonOf(
    [
      met("2024-01-01T00:00:00Z", null),
      met("2024-01-02T00:00:00Z", 300),
      met("2024-01-03T00:00:00Z", null),
      met("2024-01-04T00:00:00Z", 600),
    ],
    100,
    50,
    10,
  );
  expect(points.map(({ half }) => half)).toEqual([15, 15, 20.5, 26]);
});

it("has no outline of a fish that was met once, and no ticks within two years", () => {
  const once = ribbonOf([met("2024-01-01T00:00:00Z", 300)], 500, 50, 50);
  expect([once.path, once.points[0]!.x, once.ticks]).toEqual(["", 250, []]);
});

it("marks the years of a long life", () => {
  const { ticks } = ribbonOf([met("2021-06-01T00:00:00Z", 300), met("2024-06-01T00:00:00Z", 500)], 500, 50, 50);
  expect(ticks.map(({ text }) => text)).toEqual(["2022", "2023", "2024"]);
});
