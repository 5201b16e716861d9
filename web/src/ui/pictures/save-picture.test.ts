import { expect, it } from "vitest";
import { toCsv } from "./save-picture";

it("writes figures with their columns, quotes what needs it, and leaves gaps empty", () => {
  const csv = toCsv({
    columns: ["group", "length (mm)"],
    rows: [
      ["Lower, river", 469.5],
      ['the "old" one', null],
    ],
  });
  expect(csv).toBe('group,length (mm)\r\n"Lower, river",469.5\r\n"the ""old"" one",\r\n');
});

it("makes formulas harmless and leaves negative numbers alone", () => {
  expect(toCsv({ columns: ["a", "b"], rows: [["=1+1", -3]] })).toBe("a,b\r\n'=1+1,-3\r\n");
});
