import { describe, expect, it } from "vitest";
import {
  answerTo,
  COLUMNS,
  counted,
  emptyLine,
  isEmpty,
  pasted,
  slashed,
  typed,
  withAnswers,
  withFile,
  withRoom,
} from "./paper-cards";

const line = (id: string, cells: Record<string, string>) => ({ id, cells });

describe("the table of paper cards", () => {
  it("always has one empty line to type into", () => {
    expect(withRoom([])).toHaveLength(1);
    const [first] = withRoom([]);
    const now = typed([first!], 0, "length", "41");
    expect(now).toHaveLength(2);
    expect(now[0]).toEqual({ id: first!.id, cells: { length: "41" } });
    expect(isEmpty(now[1]!)).toBe(true);
    expect(withRoom(now)).toBe(now);
  });

  it("changes one cell and nothing else", () => {
    const lines = [line("a", { length: "41", species: "wal" }), line("b", { length: "38" })];
    const [a, b] = typed(lines, 0, "length", "42");
    expect([a, b]).toEqual([line("a", { length: "42", species: "wal" }), line("b", { length: "38" })]);
  });

  it("takes a block of a spreadsheet from where the cursor stands", () => {
    const lines = [line("a", { tagger: "17" }), line("b", { length: "1" })];
    const now = pasted(lines, 0, "number_text", "W1\twal\t41\r\nW2\tnop\t52\r\nW3\twal\t\r\n", COLUMNS);
    expect(now.map(({ cells }) => cells)).toEqual([
      { tagger: "17", number_text: "W1", species: "wal", length: "41" },
      { number_text: "W2", species: "nop", length: "52" },
      { number_text: "W3", species: "wal", length: "" },
      {},
    ]);
    expect(now[0]!.id).toBe("a");
  });

  it("leaves out what is beyond the last column", () => {
    const [first] = pasted([emptyLine()], 0, "remarks", "dark\tbeyond", COLUMNS);
    expect(first!.cells).toEqual({ remarks: "dark" });
  });

  it("adds a file's lines once", () => {
    const rows = [
      { id: "x", cells: { species: "wal" } },
      { id: "y", cells: { species: "nop" } },
    ];
    const once = withFile([line("a", { length: "41" }), emptyLine()], { rows });
    expect(once.map(({ id }) => id).slice(0, 3)).toEqual(["a", "x", "y"]);
    expect(withFile(once, { rows })).toHaveLength(4);
  });

  it.each([
    ["5/4/2026", true],
    ["05.04.26", true],
    ["2026-04-05", false],
    ["", false],
  ])("asks for the order of %s: %s", (date, asks) => expect(slashed([line("a", { date })])).toBe(asks));

  it("forgets the answer to a line that was changed, and of no other", () => {
    const lines = [line("a", { length: "41" }), line("b", { length: "38" })];
    const told = { field: "", message: "", tagger: "", missing: [], problem: "", state: "ready" as const };
    const checked = withAnswers(lines, [
      { ...told, id: "a" },
      { ...told, id: "b" },
    ]);
    const now = typed(lines, 0, "length", "42");
    expect(now.map((each) => answerTo(checked, each)?.id)).toEqual([undefined, "b", undefined]);
  });

  it("counts answers by state", () => {
    const told = { field: "", message: "", tagger: "", missing: [], problem: "" };
    const filed = (["ready", "ready", "refused", "there"] as const).map((state, n) => ({ ...told, id: `${n}`, state }));
    expect(counted(filed)).toEqual({ ready: 2, stored: 0, there: 1, refused: 1 });
  });
});
