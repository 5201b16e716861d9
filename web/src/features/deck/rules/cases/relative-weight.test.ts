import { expect, it } from "vitest";
import shared from "../../../../../../tests/shared/relative-weight.json";
import { expectedMass, relativeWeight } from "../relative-weight";

// walleye, Murphy et al. (1990): log10 Ws = -5.453 + 3.180 log10 L from 150 mm on, by hand: 437 mm weigh 877.5 g
const standard = (mm: number) => 10 ** (-5.453 + 3.18 * Math.log10(mm));
const lengths = [100, 160, 300, 450, 700];
const table = { length_mm: lengths, standard_g: lengths.map((mm) => (mm < 150 ? null : standard(mm))) } as never;

it("is exact between two rows of a power law", () => {
  expect(standard(437)).toBeCloseTo(878, -1);
  for (const mm of [160, 299, 300, 437, 700]) expect(relativeWeight(table, mm, standard(mm))).toBeCloseTo(100, 6);
  expect(relativeWeight(table, 437, 0.9 * standard(437))).toBeCloseTo(90, 6);
});

it("says what a fish weighs by the line, as the board's table has it", () => {
  const line = { length_mm: lengths, expected_g: lengths.map((mm) => 1e-5 * mm ** 3) } as never;
  for (const mm of [100, 155, 437, 700]) expect(expectedMass(line, mm)).toBeCloseTo(1e-5 * mm ** 3, 6);
  expect([expectedMass(line, 701), expectedMass(line, null), expectedMass(undefined, 300)]).toEqual([null, null, null]);
  expect(expectedMass({ length_mm: lengths } as never, 300)).toBeNull(); // a deck that was kept before it had the line
});

it.each(shared.cases)("says what core says: %o", ({ mm, g, wr }) => {
  const computed = relativeWeight(shared.table as never, mm, g);
  if (wr === null)
    expect(computed).toBeNull(); // below the shortest length of the equation, or off the table
  else expect(computed).toBeCloseTo(wr, 1);
});
