import { act } from "react";
import { beforeEach, expect, it } from "vitest";
import { change, show } from "@/testing/screen";
import { ManyOf } from "./ManyOf";

globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

const items = Array.from({ length: 14 }, (_, at) => ({
  value: String(at),
  label: `Outing ${at}`,
  group: at < 5 ? "2025" : "2026",
}));
let chosen: string[][];
const press = (words: string) => {
  const found = [...document.querySelectorAll("button")].find((each) => each.textContent?.startsWith(words));
  act(() => found!.click());
};

beforeEach(() => {
  chosen = [];
  show(<ManyOf label="Outings" items={items} chosen={["1", "9"]} onChange={(now) => void chosen.push(now)} />);
  act(() => document.querySelector<HTMLElement>("[aria-haspopup]")!.click());
});

it("chooses a whole year by one touch, and leaves what was chosen beside it", () => {
  press("All of 2025 (5)");
  expect(chosen.at(-1)!.toSorted()).toEqual(["0", "1", "2", "3", "4", "9"]);
});

it("finds by name", () => {
  const search = document.querySelector<HTMLInputElement>('[aria-label="Search outings"]')!;
  change(search, "outing 1");
  const shown = [...document.querySelectorAll("label")].map((each) => each.textContent);
  expect(shown).toEqual(["Outing 1", "Outing 10", "Outing 11", "Outing 12", "Outing 13"]);
  press("All of 2026 (4)");
  expect(chosen.at(-1)!.toSorted()).toEqual(["1", "10", "11", "12", "13", "9"]);
  change(search, "nothing of the kind");
  expect(document.body.textContent).toContain("Nothing by that name.");
});
