import { expect, it } from "vitest";
import { type Event, saidOfRun } from "./events";

const said = (run: string, second: number, measurer: string, capture: string | null = null): Event => ({
  id: `${run}${second}`,
  run,
  capture,
  kind: "hands_on",
  said: { measurer },
  device_time: new Date(1000 * second).toISOString(),
});

it("goes by what was said of this run, else by the run before", () => {
  const events = [said("b", 20, "Ben"), said("a", 10, "Ada"), said("b", 30, "Cy"), said("b", 40, "a fish's", "fish")];
  expect(saidOfRun(events, "a", "hands_on")).toEqual({ measurer: "Ada" });
  expect(saidOfRun(events, "b", "hands_on")).toEqual({ measurer: "Cy" });
  expect(saidOfRun(events, "c", "hands_on")).toEqual({ measurer: "Cy" });
  expect(saidOfRun(events, undefined, "hands_on")).toEqual({ measurer: "Cy" });
  expect(saidOfRun([], "a", "hands_on")).toEqual({});
});
