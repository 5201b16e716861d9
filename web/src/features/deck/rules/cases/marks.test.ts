import { describe, expect, it } from "vitest";
import { capture, OUTING_ID } from "@/testing/deck";
import shared from "../../../../../../tests/shared/marks.json";
import { marksAfter, markTable, metresBetween, readPit, whose } from "../marks";

const PIT = "999000000012345";
const NEW = "999000000012346";
const NOW = "2026-10-12T23:00:00Z";
const marks = {
  stock: [{ kind: "pit" as const, number: NEW, batch: "12 mm glass 1" }],
  fish: [
    {
      id: "f1",
      species: "wal",
      marks: [
        { kind: "pit" as const, number: PIT, unknown: false },
        { kind: "tbar" as const, number: "W1001", unknown: false },
      ],
      times_met: 2,
      notes: [],
      last: { at: "2025-10-12T22:00:00Z", outing: "o", site: "s1", days: 365, length_mm: 400, months: 12 },
    },
  ],
  sites: [{ id: "s1", name: "K15", water: "Ketterwick River", river_km: 15, east_m: 0, north_m: 0 }],
};

describe("a number is", () => {
  const table = markTable(marks);
  it("of a fish met before, by any of its marks", () => {
    expect(table.recognise({ kind: "pit", number: PIT })).toMatchObject({ meaning: "known", fish: { id: "f1" } });
    expect(table.recognise({ kind: "tbar", number: "W1001" })).toMatchObject({ meaning: "known" });
  });
  it("in stock", () => {
    expect(table.recognise({ kind: "pit", number: NEW })).toMatchObject({ meaning: "stock", batch: "12 mm glass 1" });
  });
  it("of somebody else", () => {
    expect(table.recognise({ kind: "tbar", number: NEW })).toMatchObject({ meaning: "foreign" });
  });
});

it("a tag placed tonight is on its fish at once and no longer in stock", () => {
  const tonight = [
    capture("c1", { placed: [{ kind: "pit", number: NEW, body_site: "", quality: "" }], length_mm: 412 }),
  ];
  const after = marksAfter(marks, tonight, OUTING_ID, NOW);
  expect(after.stock).toEqual([]);
  expect(markTable(after).recognise({ kind: "pit", number: NEW })).toMatchObject({
    meaning: "known",
    fish: { times_met: 1, notes: [], last: { outing: OUTING_ID, length_mm: 412 } },
  });
});

it("a second tag on a fish known by another adds no second fish", () => {
  const tonight = [capture("c1", { placed: [{ kind: "pit", number: PIT, body_site: "", quality: "" }] })];
  expect(marksAfter(marks, tonight, OUTING_ID, NOW).fish).toHaveLength(1);
});

describe("as core reads them (tests/shared/marks.json)", () => {
  it.each(shared.pit)("$text", ({ text, number }) => expect(readPit(text)).toBe(number));
  it.each(shared.whose)("$what", ({ reads, carried, scanned, fish }) => {
    const of = new Map(Object.entries(carried));
    const read = reads.map((number) =>
      of.has(number)
        ? { kind: "tbar" as const, number, meaning: "known" as const, fish: { id: of.get(number)! } as never }
        : { kind: "tbar" as const, number, meaning: "foreign" as const },
    );
    expect(whose(read, shared.programme, "wal")).toEqual({ scanned, fish });
  });
  it.each(shared.unknown)("$what", ({ reads, species, fish }) => {
    const read = reads.map((number) => ({ kind: "tbar" as const, number, meaning: "foreign" as const }));
    expect(whose(read, shared.programme, species)).toEqual({ scanned: "foreign", fish });
  });
});

it("another programme's tag that is read twice is one fish met twice", () => {
  const first = whose([{ kind: "tbar", number: "Q7", meaning: "foreign" }], shared.programme, "wal");
  const tonight = [
    capture("c1", {
      species: "wal",
      ...first,
      fish: first.fish,
      scanned: "foreign",
      scans: [{ kind: "tbar", number: "Q7", result: "foreign" }],
    }),
  ];
  const again = markTable(marksAfter(marks, tonight, OUTING_ID, NOW)).recognise({ kind: "tbar", number: "Q7" });
  expect(again).toMatchObject({ meaning: "foreign", met: { id: first.fish, times_met: 1 } });
  expect(whose([again], shared.programme, "wal")).toEqual(first);
  expect(whose([again], shared.programme, "yep").fish).not.toBe(first.fish);
});

it("knows a number that is printed on a tag whatever its kind", () => {
  const table = markTable({ ...marks, stock: [{ kind: "dart", number: "D77", batch: "Darts" }] });
  expect(table.recognise({ kind: "tbar", number: "D77" })).toEqual({
    kind: "dart",
    number: "D77",
    meaning: "stock",
    batch: "Darts",
  });
});

it("tells how far sites of the outing's water are apart, and nothing of others", () => {
  const site = { id: "s", name: "K15", water: "Ketterwick River", river_km: 15, east_m: 0, north_m: 0 };
  expect(metresBetween(site, { ...site, east_m: 300, north_m: -400 })).toBe(500);
  expect(metresBetween(site, { ...site, east_m: null, north_m: null })).toBeUndefined();
  const { east_m: _e, north_m: _n, ...older } = site;
  expect(metresBetween(site, older as typeof site)).toBeUndefined();
});
