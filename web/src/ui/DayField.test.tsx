import { beforeEach, expect, it } from "vitest";
import { DayField } from "./DayField";
import { change, field, leave, show } from "./testing";

let days: string[];
const day = () => field("First day") as HTMLInputElement;

beforeEach(() => {
  days = [];
  show(<DayField label="First day" value="2026-12-07" onDay={(each) => void days.push(each)} />);
});

it("waits for a whole year, and shows meanwhile what is typed", () => {
  for (const typed of ["0002-12-07", "0020-12-07", "0202-12-07"]) {
    change(day(), typed);
    expect(day().value).toBe(typed);
  }
  expect(days).toEqual([]);
  change(day(), "2027-12-07");
  expect(days).toEqual(["2027-12-07"]);
});

it("tells an early or an emptied day when it is left, and then shows what counts", () => {
  change(day(), "1850-12-07");
  leave(day());
  change(day(), "");
  expect(days).toEqual(["1850-12-07"]);
  leave(day());
  expect(days).toEqual(["1850-12-07", ""]);
  expect(day().value).toBe("2026-12-07");
});

it("tells nothing where nothing was changed", () => {
  change(day(), "2026-12-07");
  leave(day());
  expect(days).toEqual([]);
});
