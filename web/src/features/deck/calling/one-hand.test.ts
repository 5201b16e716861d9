import { expect, it } from "vitest";
import { UNITS } from "@/testing/deck";
import { type CallSettings, readCall } from "../rules/call-line";
import { lengthAfter, lineWith } from "./one-hand";

const settings: CallSettings = {
  species: [
    { code: "wal", name: "Walleye" },
    { code: "nop", name: "Northern pike" },
  ],
  units: UNITS,
  lengthUnit: "mm",
  massUnit: "g",
};
const read = (line: string) => readCall(line, settings, "wal");

it.each([
  "wal 437 890 f",
  "nop ~512 none",
  "wal 18 1/4 in #W1450 r2",
  "wal 431 fl 999000000000101 dead ; torn fin",
  "wal 402 none alive",
])("says again what was read: %s", (line) => {
  const call = read(line);
  expect(read(lineWith(call, {}))).toEqual({ ...call, speciesCalled: true });
});

it("changes one thing and keeps all others", () => {
  const call = read("437 890 f none");
  expect(lineWith(call, { lengthText: "439" })).toBe("wal 439 890 f none");
  expect(lineWith(call, { release: { fate: "released", strength: 3 } })).toBe("wal 437 890 f none r3");
  expect(lineWith(call, { species: "nop", scanned: "", marks: [{ kind: "tbar", number: "W7" }] })).toBe(
    "nop 437 890 f #W7",
  );
});

it("types a length by touch", () => {
  expect(["4", "3", "7"].reduce(lengthAfter, "")).toBe("437");
  expect(lengthAfter("437", "back")).toBe("43");
  expect(lengthAfter("4", "back")).toBe("");
  expect(lengthAfter("437", "~")).toBe("~437");
  expect(lengthAfter("~43", "7")).toBe("~437");
  expect(lengthAfter("~437", "~")).toBe("437");
  expect(lengthAfter("18 1/4 in", "4")).toBe("4");
});
