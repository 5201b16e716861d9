import { describe, expect, it } from "vitest";
import { capture, emptyDeck } from "@/testing/deck";
import shared from "../../../../../../tests/shared/well.json";
import { filling, massOfUncalled, wellFull, wellOf } from "../well";

describe("as core does", () => {
  it.each(shared.filling)("$name", ({ fish, load, number, full }) => {
    const found = filling(fish, shared.litres, shared.most_fish, shared.g_l);
    expect(found.load).toBeCloseTo(load, 9);
    expect(found.number).toBeCloseTo(number, 9);
    expect(found.full).toBe(full);
  });
  it.each(shared.uncalled)("of a batch: %o", ({ left, n, batch_g, known, mass_g }) =>
    expect(massOfUncalled(left, n, batch_g, known as [number, number][])).toBe(mass_g),
  );
});

const batch = { at_s: 0, n: 14, held_s: 0, left: 14 };
const orders = { well: { litres: 100, most_fish: 12, most_g: 6000 } } as never;
const room = { version: 1, values: { well_room: [{ species: "wal", from_mm: 0, kg_100l: 2 }] } } as never;

it("counts netted fish from the moment they go in, as large ones until somebody says what they weigh", () => {
  const deck = { ...emptyDeck(), orders };
  expect(wellFull(deck, wellOf(deck, [], [batch]))).toBe(
    "The live well is too full: 14 of unknown mass; 100 L take 6.0 kg or 12 large fish.",
  );
  expect(wellFull(deck, wellOf(deck, [], [{ ...batch, mass_g: 280 }]))).toBeNull();
  // five that were called tell what the others weigh
  const perch = capture("a", { species: "yep", count: 5, mass_g: 100 });
  expect(wellOf({ ...deck, captures: [perch] }, [], [batch])).toEqual([{ count: 14, mass_g: 280, g_l: null }]);
});

it("gives a species the room that the protocol says", () => {
  const deck = { ...emptyDeck(), orders };
  const fish = [capture("a", { mass_g: 3000 })];
  expect(wellFull(deck, wellOf(deck, fish, []))).toBeNull();
  expect(wellFull(deck, wellOf({ ...deck, protocol: room }, fish, []))).toBe(
    "The live well is too full: about 3.0 kg; 100 L take 6.0 kg or 12 large fish.",
  );
});

it("says nothing where no plan says what the well holds", () => {
  expect(wellFull(emptyDeck(), [{ count: 99, mass_g: null, g_l: null }])).toBeNull();
});
