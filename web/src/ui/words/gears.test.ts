import { expect, it } from "vitest";
import shared from "../../../../tests/shared/gears.json";
import { effortWords, GEARS, gearOf, gearWords } from "./gears";

it("knows the gears that core knows", () => {
  expect(GEARS).toEqual(shared);
});

it("says gears and effort in words", () => {
  expect(gearWords(["gill_net", "angling"])).toBe("Gill net, angling");
  expect(gearOf("shore_electrofishing").electric).toBe(true);
  expect(effortWords({ value: 12.04, unit: "rod_hours" })).toBe("12 rod-hours");
  expect(effortWords({ value: null, unit: "net_nights" })).toBe("");
});
