import { afterEach, expect, it, vi } from "vitest";
import { show } from "@/testing/screen";
import { YearStrip } from "./YearStrip";

afterEach(() => vi.useRealTimers());

const survey = { id: "1", name: "Marks, spring", first: "2027-06-01", last: "2027-06-22" };
const season = { id: "2", water: null, kind: "closed", name: "Ice", first_day: "11-20", last_day: "03-10" };

function shown(now: string, surveys: object[] = [survey], seasons: object[] = [season]) {
  vi.useFakeTimers({ now: new Date(now), toFake: ["Date"] });
  show(<YearStrip surveys={surveys as never} seasons={seasons as never} />);
  return [...document.querySelectorAll("rect")];
}

it("shows the twelve months from this one, with surveys and seasons", () => {
  const bars = shown("2027-02-14T12:00:00Z");
  expect(document.querySelector("text")!.textContent).toBe("Feb");
  // the season that runs over the new year is met twice: its end now, its beginning in November
  expect(bars).toHaveLength(3);
  expect(document.querySelector("[role=img]")!.getAttribute("aria-label")).toContain("Marks, spring");
});

it("lets bars begin and end where the strip does", () => {
  const bars = shown("2027-02-14T12:00:00Z");
  for (const bar of bars) {
    const x = Number(bar.getAttribute("x"));
    expect(x).toBeGreaterThanOrEqual(150);
    expect(x + Number(bar.getAttribute("width"))).toBeLessThanOrEqual(1095);
    expect(Number(bar.getAttribute("width"))).toBeGreaterThanOrEqual(4);
  }
});

it("leaves out what is over or far away", () => {
  expect(shown("2027-08-01T12:00:00Z", [survey], [])).toHaveLength(0);
  expect(shown("2025-01-01T12:00:00Z", [survey], [])).toHaveLength(0);
});
