import { expect, it } from "vitest";
import { addDays, readDay } from "./read-day";

it.each([
  ["25 Nov 2026", "2026-11-25"],
  ["25 november 2026", "2026-11-25"],
  ["1. May 2026", "2026-05-01"],
  ["2026-11-25", "2026-11-25"],
  ["2026-1-5", "2026-01-05"],
  ["5.3.2026", "2026-03-05"],
  ["5 3 2026", "2026-03-05"],
  ["25/11/2026", "2026-11-25"],
  ["11/25/2026", "2026-11-25"],
  ["4/4/2026", "2026-04-04"],
  ["29 Feb 2028", "2028-02-29"],
])("reads %s", (typed, day) => expect(readDay(typed)).toBe(day));

it.each(["", "5/3/2026", "31 Feb 2026", "29 Feb 2027", "13 Foo 2026", "2026", "1 May 202", "1 May 1850", "32.1.2026"])(
  "does not guess at '%s'",
  (typed) => expect(readDay(typed)).toBeNull(),
);

it("counts days over the ends of months and years", () => {
  expect([addDays("2026-12-31", 1), addDays("2028-03-01", -1)]).toEqual(["2027-01-01", "2028-02-29"]);
});
