import { createMemoryHistory, createRootRoute, createRouter, RouterProvider } from "@tanstack/react-router";
import { act } from "react";
import { describe, expect, it, vi } from "vitest";
import { change, press, show } from "@/testing/screen";
import { Outcome } from "./Outcome";
import type { Answers, FileRow } from "./queries";

const result = {
  lines: 12,
  good: 9,
  there: 2,
  bad: 1,
  new: { sites: 1, outings: 0, runs: 3, fish: 0 },
  rejects: [],
  asks: [],
  unknown: { species: [{ word: "WAE", n: 3 }] },
};
const kinds = [{ key: "species", label: "Species", units: [], choices: { wal: "walleye" } }];

async function shown(state: FileRow["state"], more: object = {}, current = true) {
  const heard = { onChange: vi.fn(), onBringIn: vi.fn(), onTakeBack: vi.fn() };
  const row = { id: "1", state, result: { ...result, ...more } } as unknown as FileRow;
  const node = <Outcome row={row} kinds={kinds} answers={{ columns: [] } as Answers} current={current} {...heard} />;
  const route = createRootRoute({ component: () => node });
  const router = createRouter({ routeTree: route, history: createMemoryHistory() });
  await act(() => router.load());
  show(<RouterProvider router={router as never} />);
  await act(async () => {});
  return heard;
}

const words = () => document.body.textContent;
const button = (text: string) => [...document.querySelectorAll("button")].find((each) => each.textContent === text);

describe("what a file would bring", () => {
  it("is said in one sentence with what is new", async () => {
    const { onBringIn } = await shown("tried");
    expect(words()).toContain("9 fish would come in, 2 are in the record already, 1 line cannot be read.");
    expect(words()).toContain("New with them: 1 site, 3 runs.");
    press("Import 9 fish");
    expect(onBringIn).toHaveBeenCalledOnce();
  });
  it("groups what cannot be read, and settles a kind by one touch", async () => {
    const groups = [
      {
        code: "year_short",
        column: "Datum",
        n: 462,
        reason: "The year of '1.5.98' has two digits.",
        cells: ["1.5.98"],
      },
      {
        code: "number_unreadable",
        column: "Gewicht",
        n: 3,
        reason: "Expected a number; got 'ca'.",
        cells: ["ca", "zu"],
      },
    ];
    const { onChange } = await shown("tried", { groups });
    expect(words()).toContain("462 lines, Datum: year of two digits; choose the century above");
    press("Treat ca, zu as no value");
    expect(onChange).toHaveBeenCalledWith({ columns: [], missing: ["ca", "zu"] });
  });
  it("takes a word for no value", async () => {
    const { onChange } = await shown("tried");
    change(document.querySelector("select")!, " no value");
    expect(onChange).toHaveBeenCalledWith({ columns: [], missing: ["wae"] });
  });
  it("waits until changed answers are tried", async () => {
    await shown("tried", {}, false);
    expect(button("Import 9 fish")!.disabled).toBe(true);
    expect(words()).toContain("try it again first");
  });
  it("waits for an answer about dates, and where nothing would come in", async () => {
    await shown("tried", { asks: [{ field: "date_order", message: "3 can only be day first." }] });
    expect(button("Import 9 fish")!.disabled).toBe(true);
    await shown("tried", { good: 0 });
    expect(button("Import 0 fish")!.disabled).toBe(true);
  });
  it("lets words be explained", async () => {
    const { onChange } = await shown("tried");
    change(document.querySelector("select")!, "wal");
    expect(onChange.mock.calls[0]![0].words).toEqual({ species: { wae: "wal" } });
  });
  it("can be taken back, and in again", async () => {
    const { onTakeBack } = await shown("in");
    expect(words()).toContain("9 fish came in");
    press("Take all of it back");
    expect(onTakeBack).toHaveBeenCalledOnce();
    await shown("back");
    expect(words()).toContain("out of the record");
    expect(button("Import again")!.disabled).toBe(false);
  });
});
