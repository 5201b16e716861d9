import { expect, it } from "vitest";
import { capture, SPECIES } from "@/testing/deck";
import shared from "../../../../../../tests/shared/none-of-n.json";
import { deathsWords, ledgerOf, noneOf } from "../ledger";

it("says of none of n what core says", () => {
  for (const { n, percent } of shared) expect(noneOf(n)).toBe(percent);
});

it("counts every fish once, counted ones by their count, and balances", () => {
  const captures = [
    capture("a", { release: "released", strength: 2 }),
    capture("b", { release: "released", count: 5 }),
    capture("c", { release: "dead" }),
    capture("d"),
  ];
  const [walleye, all] = ledgerOf({ captures, species: SPECIES });
  expect(walleye).toMatchObject({ name: "walleye", came: 8, released: 6, dead: 1, aboard: 1, strengths: [0, 1, 0, 0] });
  expect(all).toMatchObject({ name: "All species", came: 8 });
  expect(deathsWords(walleye!)).toBe("1 of 7 died; limit available when online.");
  expect(deathsWords({ ...walleye!, dead: 0, released: 143, taken: 0, escaped: 0 })).toBe(
    "None of 143 died; true rate up to 2.1 % (95 %).",
  );
  expect(deathsWords(ledgerOf({ captures: [], species: SPECIES })[0]!)).toBe("");
});
