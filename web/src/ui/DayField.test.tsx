import { beforeEach, expect, it } from "vitest";
import { change, field, leave, show } from "@/testing/screen";
import { DayField } from "./DayField";

let days: string[];
const day = () => field("First day") as HTMLInputElement;

beforeEach(() => {
  days = [];
  show(<DayField label="First day" value="2026-12-07" onDay={(each) => void days.push(each)} />);
});

it("shows the day as days are written everywhere", () => {
  expect(day().value).toBe("7 Dec 2026");
});

it("waits for a whole day, and shows meanwhile what is typed", () => {
  for (const typed of ["8", "8 Dec", "8 Dec 20", "8 Dec 202"]) {
    change(day(), typed);
    expect(day().value).toBe(typed);
  }
  expect(days).toEqual([]);
  change(day(), "8 Dec 2027");
  change(day(), "2027-12-09");
  expect(days).toEqual(["2027-12-08", "2027-12-09"]);
});

it("keeps in sight what cannot be read, says how to write it, and tells an emptied day when it is left", () => {
  change(day(), "5/3/2027");
  leave(day());
  expect([day().value, days]).toEqual(["5/3/2027", []]);
  expect(document.body.textContent).toContain("Write it as 25 Nov 2026 or 2026-11-25.");
  change(day(), "");
  leave(day());
  expect(days).toEqual([""]);
});

it("goes a day on and back by the arrow keys", () => {
  const press = (key: string) =>
    day().dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
  press("ArrowUp");
  press("ArrowDown");
  expect(days).toEqual(["2026-12-08", "2026-12-06"]);
});

it("tells nothing where nothing was changed", () => {
  change(day(), "7 Dec 2026");
  leave(day());
  expect(days).toEqual([]);
});
