import { expect, it } from "vitest";
import { capture, emptyDeck, RUN_ID } from "@/testing/deck";
import shared from "../../../../../../tests/shared/nontarget.json";
import { moveOn, nontargetShare } from "../nontarget";

it.each(shared)("$name", ({ wanted, caught, last, share }) => {
  expect(nontargetShare(wanted, caught as [string, number][], last)).toBe(share);
});

it("says to move on by the protocol's share, and nothing where the protocol has none", () => {
  const captures = [capture("a", { count: 8, species: "wal" }), capture("b", { count: 2, species: "bur" })];
  const targets = [{ id: "t", species: "bur", what: "measured", from_mm: null, zone: "", wanted: 5 }] as never;
  const deck = (rows: object[]) => ({
    ...emptyDeck(),
    captures,
    targets,
    protocol: { number: 1, values: { non_target: rows } } as never,
  });
  expect(moveOn(deck([{ share: 0.8, last: 10 }]), RUN_ID)).toBe("80 % of the last 10 fish are non-target: move on.");
  expect(moveOn(deck([{ share: 0.81, last: 10 }]), RUN_ID)).toBeNull();
  expect(moveOn(deck([{ share: 0.8, last: 11 }]), RUN_ID)).toBeNull();
  expect(moveOn(deck([{ share: 0.8, last: 10 }]), "another")).toBeNull();
  expect(moveOn(deck([]), RUN_ID)).toBeNull();
});
