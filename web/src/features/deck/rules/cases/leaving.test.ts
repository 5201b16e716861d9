import { expect, it } from "vitest";
import { capture } from "@/testing/deck";
import cases from "../../../../../../tests/shared/leaving.json";
import { type Leaving, leftAs } from "../leaving";

it.each(cases)("leaves as core says: %o", ({ before, details, after }) => {
  const { fate, ...more } = before;
  const left = leftAs(capture("a", { release: fate as never, ...more }), details as Leaving);
  const { release, strength, reason, taken_to } = left;
  expect({ fate: release, strength, reason, taken_to }).toEqual(after);
});

it("is aboard again with nothing of how it had left", () => {
  const gone = capture("a", { release: "taken", taken_to: "hatchery" });
  expect(leftAs(gone, { fate: null })).toMatchObject({ release: "", strength: null, reason: "", taken_to: "" });
});
