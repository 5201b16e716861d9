import { afterEach, expect, it } from "vitest";
import { DAY_LANGUAGES, type DayLanguage, setDayLanguage } from "./day-language";
import { formatDay } from "./format";
import { addDays, readDay } from "./read-day";

afterEach(() => setDayLanguage("en-GB"));

it.each([
  ["Nov 25, 2026", "2026-11-25"],
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

it.each(Object.keys(DAY_LANGUAGES) as DayLanguage[])("reads each day as it is written in %s", (language) => {
  setDayLanguage(language);
  for (let month = 1; month <= 12; month++) {
    const day = `2026-${String(month).padStart(2, "0")}-25`;
    expect(readDay(formatDay(day)), formatDay(day)).toBe(day);
    expect(
      readDay(new Intl.DateTimeFormat(language, { dateStyle: "long", timeZone: "UTC" }).format(new Date(day))),
    ).toBe(day);
  }
  expect(readDay("25 Nov 2026")).toBe("2026-11-25"); // English is read everywhere
});
