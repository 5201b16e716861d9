import { expect, it } from "vitest";
import { compare, EVENING, fishOf } from "./evening";

const wal = (length_mm: number, mass_g: number | null = null) => ({ species: "wal", length_mm, mass_g });

it("holds what was called, the last one put right where it was taken back", () => {
  expect(fishOf(2).map(({ length_mm }) => length_mm)).toEqual([437, 312]);
  expect(fishOf(5).at(-1)?.length_mm).toBe(610);
  expect(fishOf(6).at(-1)?.length_mm).toBe(616);
  expect(fishOf(EVENING.length + 1)).toHaveLength(fishOf(EVENING.length).length + 1);
});

it("tells what is right, what is missing and what is odd, each fish once", () => {
  expect(compare([wal(300), wal(300), wal(310, 200)], [wal(300), wal(310, 20), wal(300)])).toEqual({
    right: 2,
    missing: [wal(310, 200)],
    odd: [wal(310, 20)],
  });
  expect(compare([], [])).toEqual({ right: 0, missing: [], odd: [] });
});
