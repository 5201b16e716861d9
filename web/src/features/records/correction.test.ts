import { describe, expect, it } from "vitest";
import { capture } from "@/testing/deck";
import { changesIn, formOf } from "./correction";

const fish = capture("a", {
  length_text: "18 1/4",
  length_unit: "in",
  length_mm: 463.55,
  mass_text: "~1085",
  mass_unit: "g",
  mass_basis: "estimated",
});

describe("a fish put right at the desk", () => {
  it("shows its texts with their units, and says nothing where nothing was changed", () => {
    expect(formOf(fish, "UTC")).toMatchObject({ length: "18 1/4", length_unit: "in", mass: "~1085", mass_unit: "g" });
    expect(changesIn(fish, "UTC", formOf(fish, "UTC"))).toEqual({});
  });
  it.each([
    [{ note: "scar" }, { note: "scar" }],
    [{ sex: "f" as const }, { sex: "f" }],
    [{ length: "18 3/4" }, { length: "18 3/4", length_unit: "in" }],
    [{ length_unit: "cm" }, { length: "18 1/4", length_unit: "cm" }],
    [{ mass: "" }, { mass: "", mass_unit: "g" }],
    [{ caught: "21:40" }, { caught_at: "2026-10-12T21:40:00.000Z" }],
  ])("sends %o alone", (change, sent) => {
    expect(changesIn(fish, "UTC", { ...formOf(fish, "UTC"), ...change })).toEqual(sent);
  });
  it("shows the figure itself where nobody knows the unit of the text", () => {
    const old = { ...fish, length_unit: "", length_basis: "estimated" };
    expect(formOf(old, "UTC")).toMatchObject({ length: "~463.55", length_unit: "mm" });
    expect(changesIn(old, "UTC", formOf(old, "UTC"))).toEqual({});
  });
});
