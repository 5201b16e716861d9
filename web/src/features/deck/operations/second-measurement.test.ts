import { expect, it } from "vitest";
import { capture } from "@/testing/deck";
import type { DeckStore } from "../document/deck-store";
import { letMeasurementCount } from "./capture-edit";

it("changes only what was measured again, and keeps the doubts that were answered", async () => {
  const added: { row: Record<string, unknown>; shown: Record<string, unknown> }[] = [];
  const store = { add: async (entry: never) => void added.push(entry) } as unknown as DeckStore;
  const before = [{ code: "length_unusual", answer: "kept as called" }];
  const fish = capture("a", { length_text: "18 1/4", length_unit: "in", length_mm: 463.6, questions: before });
  await letMeasurementCount(store, fish, { length_mm: null, mass_g: 905 });
  const [{ row, shown }] = added as [(typeof added)[0]];
  expect(row).toEqual({
    capture: "a",
    mass: "905",
    mass_unit: "g",
    questions: [...before, { code: "second_measurement", answer: "this one counts" }],
  });
  expect(shown).toMatchObject({
    length_text: "18 1/4",
    length_unit: "in",
    length_mm: 463.6,
    mass_g: 905,
    mass_unit: "g",
  });
});
