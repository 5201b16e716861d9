import { expect, it } from "vitest";
import { capture } from "@/testing/deck";
import shared from "../../../../../../tests/shared/bands.json";
import { leavingWords, leftAs, waysToLeave } from "../leaving";
import { bandFor, wordFor } from "../protocol";

const goesBy = {
  protocol: {
    number: 3,
    values: {
      fates: [{ code: "released", word: "let go" }],
      strengths: [{ code: "2", word: "slowly" }],
      taken_to: [{ code: "pen", word: "holding pen" }],
      reasons: [{ code: "study", word: "study" }],
    },
  },
};
const bare = { protocol: { number: 0, values: {} } };

it("finds the row that core finds", () => {
  for (const { species, length_mm, where } of shared.cases)
    expect(bandFor(shared.rows, species, length_mm)?.where).toBe(where);
  expect(bandFor([], "wal", 400)).toBeNull();
});

it("tells how a fish left in the programme's words, and in ours where a tablet knows no protocol", () => {
  expect(leavingWords(goesBy, { fate: "released", strength: 2, reason: "study" })).toBe("let go 2: slowly (study)");
  expect(leavingWords(goesBy, { fate: "taken", taken_to: "pen" })).toBe("taken to holding pen");
  expect(leavingWords(bare, { fate: "escaped" })).toBe("escaped");
  expect(leavingWords(bare, { fate: null })).toBe("aboard");
  expect(wordFor(bare, "reasons", "gone")).toBe("gone");
});

it("offers each way once, places of the protocol among them", () => {
  const keys = waysToLeave(goesBy).map(({ key }) => key);
  expect(keys).toContain("taken||pen");
  expect(new Set(keys).size).toBe(keys.length);
  expect(waysToLeave(bare).map(({ key }) => key)).toEqual([
    "released||", "released|1|", "released|2|", "released|3|", "released|4|", "dead||", "kept||", "escaped||",
  ]); // biome-ignore format: one line
});

it("changes what is said of a fish and nothing else; what a new fate does not have is gone", () => {
  const left = capture("a", { release: "released", strength: 2, reason: "study" });
  expect(leftAs(left, { strength: 1 })).toMatchObject({ release: "released", strength: 1, reason: "study" });
  expect(leftAs(left, { fate: "released", word: "alive" })).toMatchObject({ strength: 2, reason: "study" });
  expect(leftAs(left, { fate: "dead" })).toMatchObject({ release: "dead", strength: null, reason: "" });
  expect(leftAs(left, { fate: null })).toMatchObject({ release: "", strength: null, reason: "" });
  expect(leftAs(left, { fate: "released", word: "alive" })).not.toHaveProperty("word");
});
