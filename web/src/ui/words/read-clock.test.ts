import { expect, it } from "vitest";
import { readClock, readMinutes } from "./read-clock";

it.each([
  ["21:40", 1300],
  ["2140", 1300],
  ["9.40 pm", 1300],
  ["9 pm", 1260],
  ["12 am", 0],
  ["0:05", 5],
  ["24:00", null],
  ["21:60", null],
  ["13 pm", null],
  ["21", null],
  ["", null],
  ["soon", null],
])("reads %s", (text, minutes) => expect(readMinutes(text)).toBe(minutes));

it.each([
  ["21:40", "2026-10-13T03:58:30Z", "America/Chicago", "2026-10-13T02:40:00.000Z"], // 22:58 there
  ["0:10", "2026-10-13T04:58:30Z", "America/Chicago", "2026-10-13T05:10:00.000Z"], // over midnight
  ["23:50", "2026-10-13T05:10:00Z", "America/Chicago", "2026-10-13T04:50:00.000Z"], // and back
  ["9 pm", "2026-07-01T19:00:00Z", "UTC", "2026-07-01T21:00:00.000Z"],
])("%s near %s in %s", (text, near, zone, moment) => expect(readClock(text, near, zone)).toBe(moment));

it("refuses what is no time", () => expect(readClock("late", "2026-07-01T19:00:00Z", "UTC")).toBeNull());
