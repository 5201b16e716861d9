import { describe, expect, it, vi } from "vitest";
import { change, show } from "@/testing/screen";
import { ColumnTable } from "./ColumnTable";
import type { Answers, FileRow } from "./queries";

const kinds = [
  { key: "length", label: "Length", units: ["mm", "cm", "in"], choices: {} },
  { key: "date", label: "Date", units: [], choices: {} },
];
const answers = {
  columns: [
    { header: "TL", key: "length", unit: "in" },
    { header: "Caught", key: "", unit: null },
  ],
} as Answers;
const row = {
  answers,
  preview: {
    evidence: { length: "97 % of 40 fish are believable in in" },
    remembered: [],
    columns: [
      { header: "TL", samples: ["18.5", "16.1"], slashed: "", date_order: null },
      { header: "Caught", samples: ["05/13/2018"], slashed: "05/13/2018", date_order: "month" },
    ],
  },
} as unknown as FileRow;

const box = (label: string) => document.querySelector<HTMLSelectElement>(`[aria-label="${label}"]`)!;

function shown(given: Answers = answers) {
  const onChange = vi.fn();
  show(<ColumnTable row={row} kinds={kinds} answers={given} onChange={onChange} />);
  return onChange;
}

describe("what the columns of a file are", () => {
  it("shows cells, kind, unit, and how the unit was told", () => {
    shown();
    expect(document.body.textContent).toContain("18.5 · 16.1");
    expect(document.body.textContent).toContain("97 % of 40 fish");
    expect(box("Unit of TL").value).toBe("in");
    expect(document.querySelector('[aria-label="Unit of Caught"]')).toBeNull();
  });
  it("takes over the order that a column's dates show", () => {
    const onChange = shown();
    change(box("What Caught is"), "date");
    expect(onChange.mock.calls[0]![0]).toMatchObject({ date_order: "month", columns: [{}, { key: "date" }] });
  });
  it("asks for a unit that is not known", () => {
    const onChange = shown({ ...answers, columns: [{ ...answers.columns[0]!, unit: null }, answers.columns[1]!] });
    expect(box("Unit of TL").value).toBe("");
    change(box("Unit of TL"), "cm");
    expect(onChange.mock.calls[0]![0].columns[0].unit).toBe("cm");
  });
});
