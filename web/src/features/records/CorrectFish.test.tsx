import { act, useState } from "react";
import { beforeEach, expect, it, vi } from "vitest";
import { capture } from "@/testing/deck";
import { change, field, press, show } from "@/testing/screen";
import { CorrectFish } from "./CorrectFish";

const correct = vi.fn(async (_: unknown) => undefined);
const answers: { options?: object; runs?: object[] } = {};
vi.mock("./queries", () => ({
  useCorrection: () => ({ mutateAsync: correct, error: null, isPending: false }),
  useRunsOf: () => ({ data: answers.runs }),
  useMarking: () => ({ mutateAsync: vi.fn(), error: null, isPending: false }),
}));
vi.mock("@/features/selection", () => ({ useSelectionOptions: () => ({ data: answers.options }) }));
vi.mock("@/session", () => ({ useHere: () => ({ membership: { programme: "g" }, may: () => true }) }));

const OPTIONS = {
  species: [
    { code: "bur", name: "burbot" },
    { code: "wal", name: "walleye" },
  ],
  outings: [
    { id: "other", name: "Other", date: "2026-10-11" },
    { id: "o", name: "Tonight", date: "2026-10-12" },
  ],
  waters: [{ id: "w", name: "River", sites: [{ id: "s", name: "K15", zone: "" }] }],
};
const RUNS = [1, 2].map((number) => ({ id: `run${number}`, number, site: "s" }));
const fish = {
  capture: { ...capture("a"), run: "run2", release: "released", strength: 2 },
  outing: "o",
  run: 2,
  site: "K15",
  deleted: false,
} as never;

beforeEach(() => {
  correct.mockClear();
  answers.options = undefined;
  answers.runs = undefined;
});

it("shows what the fish is also where the choices come later, and sends only what is changed", async () => {
  let drawAgain: () => void = () => undefined;
  function Page() {
    const [n, setN] = useState(0);
    drawAgain = () => setN(n + 1);
    return <CorrectFish fish={fish} />;
  }
  await act(async () => void show(<Page />));
  expect((field("Run") as HTMLSelectElement).selectedOptions[0]!.textContent).toBe("run 2, K15");
  answers.options = OPTIONS;
  answers.runs = RUNS;
  await act(async () => drawAgain());
  for (const [label, value] of [
    ["Species", "wal"],
    ["Outing", "o"],
    ["Run", "run2"],
    ["Disposition", "released 2"],
  ] as const)
    expect(field(label).value).toBe(value);
  change(field("Run"), "run1");
  change(field("Disposition"), "dead");
  change(field("Reason for the correction"), "called into the wrong run");
  await act(async () => press("Correct"));
  expect(correct).toHaveBeenCalledWith({
    run: "run1",
    fate: "dead",
    strength: null,
    reason: "called into the wrong run",
  });
});
