import { describe, expect, it } from "vitest";
import { UNITS } from "@/testing/deck";
import cases from "../../../../../../tests/shared/quantities.json";
import { isReadable, readQuantity } from "../quantity";

interface Case {
  what: "length" | "mass";
  text: string;
  unit: string;
  value?: number;
  read_unit?: string;
  estimated?: boolean;
  error?: string;
}

describe("reading says the same as core", () => {
  it.each(cases as Case[])("$what '$text' in $unit", ({ what, text, unit, value, read_unit, estimated, error }) => {
    const read = readQuantity(what, text, UNITS[what], unit);
    if (error) {
      expect(read).toMatchObject({ code: error });
      return;
    }
    expect(isReadable(read) && read.value).toBeCloseTo(value!, 6);
    expect(read).toMatchObject({ unit: read_unit, estimated: estimated ?? false });
  });
});
