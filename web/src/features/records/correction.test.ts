import { describe, expect, it } from "vitest";
import { capture } from "@/testing/deck";
import { changesIn, formOf } from "./correction";

const fish = capture("a", {
  length_text: "18 1/2",
  length_unit: "in",
  length_mm: 469.9,
  mass_text: "~1120",
  mass_unit: "g",
  mass_basis: "estimated",
});

describe("a fish put right at the desk", () => {
  it("shows its texts with their units, and says nothing where nothing was changed", () => {
    expect(formOf(fish)).toMatchObject({ length: "18 1/2", length_unit: "in", mass: "~1120", mass_unit: "g" });
    expect(changesIn(fish, formOf(fish))).toEqual({});
  });
  it.each([
    [{ note: "scar" }, { note: "scar" }],
    [{ sex: "f" as const }, { sex: "f" }],
    [{ length: "18 3/4" }, { length: "18 3/4", length_unit: "in" }],
    [{ length_unit: "cm" }, { length: "18 1/2", length_unit: "cm" }],
    [{ mass: "" }, { mass: "", mass_unit: "g" }],
  ])("sends %o alone", (change, sent) => {
    expect(changesIn(fish, { ...formOf(fish), ...change })).toEqual(sent);
  });
  it("shows the figure itself where nobody knows the unit of the text", () => {
    const old = { ...fish, length_unit: "", length_basis: "estimated" };
    expect(formOf(old)).toMatchObject({ length: "~469.9", length_unit: "mm" });
    expect(changesIn(old, formOf(old))).toEqual({});
  });
});
