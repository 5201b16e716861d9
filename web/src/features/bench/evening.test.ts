// @vitest-environment jsdom
import { expect, it } from "vitest";
import { compare, eveningOf, fishOf } from "./evening";

const wal = (length_mm: number, mass_g: number | null = null) => ({ species: "wal", length_mm, mass_g });
const kind = (code: string, weighed = true) => ({
  code,
  name: `kind ${code}`,
  usual_mm: [100, 600],
  mass_table: (weighed
    ? { length_mm: [100, 600], expected_g: [10, 2160] }
    : { length_mm: [], expected_g: [] }) as never,
});
const evening = eveningOf([kind("aaa"), kind("bbb"), kind("ccc")]);

it("calls the outing's own species, with the mass that a fish of that length has", () => {
  expect(evening[0]).toMatchObject({
    called: "kind aaa, three one zero, three zero zero, female",
    deeds: [
      { do: "length", value: 310 },
      { do: "mass", value: 300 },
    ],
    fish: { species: "aaa", length_mm: 310, mass_g: 300 },
  });
  expect(new Set(evening.flatMap(({ fish }) => fish?.species ?? []))).toEqual(new Set(["aaa", "bbb", "ccc"]));
  expect(eveningOf([kind("aaa", false)]).every(({ fish }) => !fish || fish.mass_g === null)).toBe(true);
  expect(eveningOf([])).toEqual([]);
});

it("holds what was called, the last one put right where it was taken back", () => {
  const lengths = (steps: number) => fishOf(evening, steps).map(({ length_mm }) => length_mm);
  expect(lengths(2)).toEqual([310, 190]);
  expect(lengths(5).at(-1)).toBe(325);
  expect(lengths(6).at(-1)).toBe(331);
  expect(lengths(evening.length + 1)).toHaveLength(lengths(evening.length).length + 1);
});

it("tells what is right, what is missing and what is odd, each fish once", () => {
  expect(compare([wal(300), wal(300), wal(310, 200)], [wal(300), wal(310, 20), wal(300)])).toEqual({
    right: 2,
    missing: [wal(310, 200)],
    odd: [wal(310, 20)],
  });
  expect(compare([], [])).toEqual({ right: 0, missing: [], odd: [] });
});
