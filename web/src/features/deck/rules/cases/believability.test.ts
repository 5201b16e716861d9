import { describe, expect, it } from "vitest";
import { walleye } from "@/testing/deck";
import shared from "../../../../../../tests/shared/believability.json";
import growth from "../../../../../../tests/shared/growth.json";
import { judge, shrank } from "../believability";

type Species = Parameters<typeof judge>[0];
const species = shared.species as unknown as Record<string, Species>;
const slips = shared.slips as Parameters<typeof judge>[2];

describe("judging says the same as core", () => {
  it.each(shared.cases)("$species $length_mm mm $mass_g g", (called) => {
    const previous = called.mass_before_g === null ? null : { length: 430, mass: called.mass_before_g };
    const fish = { length: called.length_mm, mass: called.mass_g };
    const doubts = judge(species[called.species]!, fish, slips, previous);
    expect(doubts.questions.map(({ code, weight }) => ({ code, weight }))).toEqual(called.questions);
    expect(
      doubts.repairs.map(({ code, fish: { length, mass } }) => ({ code, length_mm: length, mass_g: mass })),
    ).toEqual(called.repairs);
  });
});

it("names the unit and what was expected", () => {
  const { questions } = judge(walleye, { length: 463, mass: 0.95 }, slips, null);
  expect(questions[0]!.message).toMatch(/0\.95 g is far too light for 463 mm; expected [\d,.]+ to [\d,.]+ g/);
});

it.each(growth)("asks about a fish that shrank as core does: %o", ({ last_mm, length_mm, asks }) => {
  expect(shrank(last_mm, length_mm) !== null).toBe(asks);
});
