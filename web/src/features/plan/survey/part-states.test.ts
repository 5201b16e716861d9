import { expect, it } from "vitest";
import type { Survey } from "../queries";
import { partStates } from "./part-states";

const survey = (change: object = {}, parts: object = {}) =>
  ({
    gear: "boat_electrofishing",
    more_gears: [],
    answered: [],
    sites: [],
    rehearsed: 0,
    against: [],
    parts: {
      targets: [],
      crew: [],
      bath: { agent: "" },
      tags: { kind: "", n: 0 },
      electro: { conductivity: 180 },
      ...parts,
    },
    ...change,
  }) as unknown as Survey;

it("says of a new plan what waits", () => {
  const states = partStates(survey());
  expect(Object.values(states).map((each) => each?.words)).toEqual([
    "no targets yet",
    "none laid yet",
    "no reading yet",
    undefined,
    "not rehearsed yet",
    "nothing chosen yet",
    "nobody yet",
  ]);
  expect(Object.values(states).every((each) => each === null || each.waits)).toBe(true);
});

it("says of a finished one what it has", () => {
  const states = partStates(
    survey(
      { answered: ["electro", "deep"], sites: [1, 2, 3, 4, 5, 6, 7, 8], rehearsed: 2 },
      { targets: [1], crew: ["a", "b"], bath: { agent: "x" }, tags: { kind: "pit", n: 200 } },
    ),
  );
  expect(Object.values(states).map((each) => each?.words)).toEqual([
    "1 target",
    "8 laid",
    "for 180 µS/cm",
    undefined,
    "2 done",
    "bath, 200 tags, deep water",
    "2 people",
  ]);
  expect(partStates(survey({ against: ["x"] })).go).toEqual({ words: "1 to resolve", waits: true });
  expect(partStates(survey({ gear: "angling" })).settings).toBeNull();
});
