import { expect, it } from "vitest";
import { capture, SPECIES, UNITS } from "@/testing/deck";
import cases from "../../../../../../tests/shared/permits.json";
import { readCall } from "../call-line";
import { permitQuestion, permitsAgainst, permitsForTag, standing } from "../permits";

it.each(cases)("stands as core says: %o", (each) =>
  expect(standing(each.before, each.more, each.most)).toBe(each.standing),
);

const settings = { species: SPECIES, units: UNITS, lengthUnit: "mm", massUnit: "g" };
const allowance = {
  id: "a",
  permit: "Permit 17",
  species: "wal",
  species_name: "walleye",
  what: "captured" as const,
  most: 5,
  first: "2026-01-01",
  last: "2026-12-31",
  counted: 2,
  standing: "open" as const,
};
const caught = (...counts: number[]) => counts.map((count, place) => capture(`c${place}`, { species: "wal", count }));
const asked = (line: string, allowances: object[], captures = caught(1)) =>
  permitQuestion(permitsAgainst({ allowances: allowances as never, captures }, readCall(line, settings, "wal")));

it("counts a tag that a fish gets afterwards for the tag alone", () => {
  const tags = { ...allowance, what: "tagged" as const, most: 3 };
  const deck = { allowances: [allowance, tags] as never, captures: caught(1) };
  expect(permitsForTag(deck, deck.captures[0]!).map((each) => [each.allowance.what, each.standing])).toEqual([
    ["tagged", "last"],
  ]);
  const tagged = capture("t", { placed: [{ kind: "tbar", number: "W1", body_site: "", quality: "" }] });
  expect(permitsForTag({ ...deck, captures: [tagged] }, tagged)).toEqual([]); // it is counted there already
  expect(permitsForTag({ ...deck, captures: [tagged, ...caught(1)] }, deck.captures[0]!)[0]?.standing).toBe("over");
});

it("asks at the last fish and beyond, counting what lies on this tablet", () => {
  expect(asked("437", [allowance])).toBeNull();
  expect(asked("437", [allowance], caught(1, 1))?.code).toBe("permit_last");
  expect(asked("437", [allowance], caught(3))?.message).toContain("allows 5 walleye captured; 5 are counted");
  expect(asked("x3", [allowance])?.code).toBe("permit_over");
  expect(asked("yep 200", [allowance], caught(9))).toBeNull();
  expect(asked("yep 200", [{ ...allowance, species: "", species_name: "all species" }], caught(9))?.code).toBe(
    "permit_over",
  );
});

it("counts only what the permit is about", () => {
  const killed = { ...allowance, what: "killed" as const, most: 0, counted: 0 };
  expect(asked("437", [killed])).toBeNull();
  expect(asked("437 dead", [killed])?.code).toBe("permit_over");
  const tagged = { ...allowance, what: "tagged" as const, most: 3, counted: 3 };
  expect(asked("437", [tagged])).toBeNull();
  expect(asked("437 none #W1001", [tagged])?.code).toBe("permit_over");
  const handled = { ...allowance, what: "handled" as const, most: 2, counted: 2 };
  expect(asked("x14", [handled])).toBeNull();
  expect(asked("none #W1001", [handled])?.code).toBe("permit_over"); // a tag is handling, also where nothing is measured
});

it("a deck from an earlier version holds no permits", () => {
  expect(permitsAgainst({ captures: [] }, readCall("437", settings, "wal"))).toEqual([]);
});
