import { expect, test } from "vitest";
import cases from "../../../../../../tests/shared/oxygen.json";
import { saturationHint, saturationMgL } from "../oxygen";

test.each(cases)("saturation at $temperature_c °C is core's", ({ temperature_c, mg_l }) => {
  expect(saturationMgL(temperature_c)).toBeCloseTo(mg_l, 3);
});

test("a reading is told in per cent, and one in per cent is asked about", () => {
  expect(saturationHint(20, 9.1)).toBe("100 % of saturation at sea level");
  expect(saturationHint(20, 28)).toContain("is it mg/L?");
  expect(saturationHint(null, 9)).toBeUndefined();
  expect(saturationHint(12, null)).toBeUndefined();
});
