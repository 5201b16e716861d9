import { expect, it } from "vitest";
import { asText, figure } from "./numbers";

const volts = figure(0, 2000, "V");

it("takes a figure in range, and nothing as nothing", () => {
  expect([volts.parse("210"), volts.parse(" 4.5 "), volts.parse(".5"), volts.parse("")]).toEqual([210, 4.5, 0.5, null]);
  expect([volts.parse("14,5"), volts.parse("1,250.5")]).toEqual([14.5, 1250.5]);
  expect(volts.safeParse("1,250").error!.issues[0]!.message).toContain("two ways");
});

it.each(["lots", "-1", "2001", "1e3", "12 13", "NaN", "0x10"])("refuses '%s' with what was expected", (text) => {
  const read = volts.safeParse(text);
  expect(read.success).toBe(false);
  expect(read.error!.issues[0]!.message).toBe(`Expected 0 to 2000 V; got '${text}'.`);
});

it("shows a missing figure as an empty field", () => {
  expect([asText(null), asText(undefined), asText(0), asText(4.5)]).toEqual(["", "", "0", "4.5"]);
});
