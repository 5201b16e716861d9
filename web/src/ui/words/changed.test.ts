import { expect, it } from "vitest";
import { fieldWords, valueWords } from "./changed";

it.each([
  ["length_mm", 441, "length", "441 mm"],
  ["details.n", 5, "n", "5"],
  ["current_on_s", 611.5, "current on", "611.5 s"],
  ["oxygen_mg_l", 9.1, "oxygen", "9.1 mg/L"],
  ["note", "", "note", "nothing"],
  ["length_text", "441", "length text", "441"],
  ["deleted_at", null, "taken out", "nothing"],
  ["details.signs", ["bloated", "eyes"], "signs", "bloated, eyes"],
  ["more", { stage_m: 2 }, "more", '{"stage_m":2}'],
])("%s %s", (name, value, field, shown) => {
  expect([fieldWords(name), valueWords(name, value)]).toEqual([field, shown]);
});
