import { expect, it } from "vitest";
import { readDegrees } from "./read-degrees";

it.each([
  ["44.9021", "latitude", 44.9021],
  ["44,9021", "latitude", 44.9021],
  ["-1,22", "longitude", -1.22],
  ["−1.22", "longitude", -1.22],
  ["44° 54.126' N", "latitude", 44.9021],
  ["S 44 54 7.56", "latitude", -44.9021],
  ["44°54′7,56″ S", "latitude", -44.9021],
  ["31 12 15 W", "longitude", -31.2041667],
  ["31 12,25 O", "longitude", 31.2041667],
  ["+7", "longitude", 7],
  ["0", "latitude", 0],
] as const)("reads %s as a %s", (typed, axis, value) => {
  expect(readDegrees(typed, axis)).toEqual({ value });
});

it.each([
  ["91", "latitude", "at most 90"],
  ["44 N", "longitude", "no side of a longitude"],
  ["-44 S", "latitude", "not both"],
  ["44 72", "latitude", "below 60"],
  ["44.5 12", "latitude", "Expected degrees"],
  ["1.234.5", "latitude", "Expected degrees"],
  ["north", "latitude", "Expected degrees"],
  ["44 5 6 7", "latitude", "Expected degrees"],
] as const)("refuses %s as a %s", (typed, axis, message) => {
  expect(readDegrees(typed, axis)).toEqual({ message: expect.stringContaining(message) });
});

it("takes an empty field for none", () => {
  expect(readDegrees("  ", "latitude")).toBeNull();
});
