import { expect, it } from "vitest";
import { capture, walleye } from "@/testing/deck";
import { bands, boardScale, pile } from "./board";

it("reaches past the longest fish and the last category", () => {
  const scale = boardScale(walleye, [], 900);
  expect(scale.maxMm).toBeGreaterThanOrEqual(walleye.usual_mm[1]!);
  expect(boardScale(walleye, [1234], 900).maxMm).toBe(1300);
  expect(scale.x(scale.maxMm)).toBe(900);
});

it("piles fish of one length class in the order in which they came", () => {
  const fish = [463, 462, 380, 470].map((length_mm, place) => capture(String(place), { length_mm }));
  expect(pile(fish, 10).map(({ id, bin, level }) => [id, bin, level])).toEqual([
    ["0", 46, 0],
    ["1", 46, 1],
    ["2", 38, 0],
    ["3", 47, 0],
  ]);
});

it("leaves out fish with no length and marks estimates", () => {
  const fish = [capture("a", { length_mm: null }), capture("b", { length_basis: "estimated" })];
  expect(pile(fish, 10)).toEqual([{ id: "b", bin: 46, level: 0, estimated: true }]);
});

it("draws each category from its limit to the next", () => {
  expect(bands(walleye, 900).map(({ name, from, to }) => [name, from, to])).toEqual([
    ["stock", 250, 380],
    ["quality", 380, 510],
    ["preferred", 510, 630],
    ["memorable", 630, 760],
    ["trophy", 760, 900],
  ]);
});
