import { expect, it } from "vitest";
import {
  formatDay,
  formatGrams,
  formatInches,
  formatInterval,
  formatMm,
  formatPounds,
  formatSeconds,
  formatTime,
} from "./format";

it("writes lengths and masses with their units", () => {
  expect([formatMm(463), formatMm(463.55), formatInches(463.55)]).toEqual(["463 mm", "463.6 mm", "18.25 in"]);
  expect([formatGrams(0.95), formatGrams(1085), formatGrams(12_345)]).toEqual(["0.95 g", "1,085 g", "12.35 kg"]);
  expect([formatPounds(1105.63), formatPounds(100), formatPounds(453.59237)]).toEqual([
    "2 lb 7 oz",
    "3.5 oz",
    "1 lb 0 oz",
  ]);
});

it("writes times in the water's zone", () => {
  expect(formatTime("2026-10-12T22:05:00Z", "Etc/GMT+2")).toBe("20:05");
  expect(formatDay("2026-10-12")).toBe("12 Oct 2026");
  expect(formatSeconds(96.9)).toBe("1:36");
});

it("writes a value with its interval, or that there is none", () => {
  expect(formatInterval(68.2, 61.4, 74.1, 0)).toBe("68 (61 to 74)");
  expect(formatInterval(68.2, null, null, 1)).toBe("68.2");
  expect(formatInterval(null, 0, 100, 0)).toBe("not defined");
});
