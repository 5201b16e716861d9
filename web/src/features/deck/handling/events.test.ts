import { expect, it } from "vitest";
import { detailsOfRun, type Event } from "./events";

const personnel = (run: string, second: number, measurer: string, capture: string | null = null): Event => ({
  id: `${run}${second}`,
  run,
  capture,
  kind: "hands_on",
  details: { measurer },
  device_time: new Date(1000 * second).toISOString(),
});

it("takes those of this run, else of the run before", () => {
  const events = [
    personnel("b", 20, "Ben"),
    personnel("a", 10, "Ada"),
    personnel("b", 30, "Cy"),
    personnel("b", 40, "a fish's", "fish"),
  ];
  expect(detailsOfRun(events, "a", "hands_on")).toEqual({ measurer: "Ada" });
  expect(detailsOfRun(events, "b", "hands_on")).toEqual({ measurer: "Cy" });
  expect(detailsOfRun(events, "c", "hands_on")).toEqual({ measurer: "Cy" });
  expect(detailsOfRun(events, undefined, "hands_on")).toEqual({ measurer: "Cy" });
  expect(detailsOfRun([], "a", "hands_on")).toEqual({});
});
