import { expect, it } from "vitest";
import { daysLeft } from "./old-screens";

const at = (day: string) => Date.parse(`${day}T12:00:00Z`);

it("says nothing for most of two years, then how long is left, then that it is over", () => {
  expect(daysLeft("2026-11-30", at("2026-12-24"))).toBe(null);
  expect(daysLeft("2026-11-30", at("2028-08-01"))).toBe(null);
  expect(daysLeft("2026-11-30", at("2028-09-01"))).toBe(88);
  expect(daysLeft("2026-11-30", at("2029-01-01"))).toBeLessThan(0);
});
