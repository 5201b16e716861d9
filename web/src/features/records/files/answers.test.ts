import { describe, expect, it } from "vitest";
import { missing, setKind, setWord } from "./answers";
import type { Answers } from "./queries";

const answers = {
  columns: [
    { header: "TL", key: "length", unit: "in" },
    { header: "len2", key: "", unit: null },
    { header: "day", key: "date", unit: null },
  ],
} as Answers;

describe("saying what columns are", () => {
  it("moves a kind from the column that had it, with no unit carried over unseen", () => {
    const moved = setKind(answers, 1, "length", ["mm", "cm", "in"]);
    expect(moved.columns.map(({ key, unit }) => [key, unit])).toEqual([
      ["", null],
      ["length", null],
      ["date", null],
    ]);
  });
  it("keeps a unit that the new kind has too, and drops one that it has not", () => {
    expect(setKind(answers, 0, "length", ["mm", "in"]).columns[0]!.unit).toBe("in");
    expect(setKind(answers, 0, "mass", ["g", "kg"]).columns[0]!.unit).toBeNull();
  });
  it("leaves several columns out at once", () => {
    const none = setKind(setKind(answers, 0, "", []), 2, "", []);
    expect(none.columns.every(({ key }) => key === "")).toBe(true);
  });
  it("takes words in small letters, as the server compares them", () => {
    expect(setWord(answers, "species", "WAE", "wal").words).toEqual({ species: { wae: "wal" } });
  });
  it("lists what no column brings", () => {
    expect(missing(answers)).toEqual(["species", "water", "site", "gear"]);
    expect(missing(setKind(answers, 2, "device_time_utc", []))).not.toContain("date");
  });
});
