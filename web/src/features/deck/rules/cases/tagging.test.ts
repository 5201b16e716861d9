import { describe, expect, it } from "vitest";
import { capture, emptyDeck, RUN } from "@/testing/deck";
import { quotaFor, tagProposal } from "../tagging";

const quota = (change: object = {}) => ({
  species: "wal",
  zone: "",
  from_mm: 300,
  to_mm: null,
  most: 10,
  placed: 0,
  ...change,
});
const tagged = (id: string, mm: number) =>
  capture(id, { length_mm: mm, placed: [{ kind: "pit", number: id, body_site: "", quality: "" }] });

describe("quotas", () => {
  it("are of the species and zone before those of any", () => {
    const rows = [quota({ species: "", most: 1 }), quota({ most: 2 }), quota({ zone: "Lower river", most: 3 })];
    expect(quotaFor(rows, "wal", 400, "lower river")!.most).toBe(3);
    expect(quotaFor(rows, "wal", 400, "Upper river")!.most).toBe(2);
    expect(quotaFor(rows, "yep", 400, "Lower river")!.most).toBe(1);
    expect(quotaFor(rows, "wal", 299, "Lower river")).toBeNull();
    expect(quotaFor([quota({ to_mm: 450 })], "wal", 450, "")).toBeNull();
  });
});

describe("who gets a tag", () => {
  const orders = (change: object) =>
    ({
      survey: "s",
      lines: [],
      electro: null,
      well: null,
      mark_from_mm: null,
      pull_m: null,
      bath: null,
      tags: null,
      ...change,
    }) as never;

  it("counts what other outings placed and what this one did", () => {
    const deck = {
      ...emptyDeck(),
      runs: [RUN],
      quotas: [quota({ most: 4, placed: 1 })],
      captures: [tagged("a", 400), tagged("b", 250)],
    };
    expect(tagProposal(deck, "wal", 410, RUN)).toEqual({ tag: true, words: "2 of 4" });
    const full = { ...deck, captures: [tagged("a", 400), tagged("b", 350), tagged("c", 600)] };
    expect(tagProposal(full, "wal", 410, RUN)).toEqual({ tag: false, words: "quota full, 4 of 4" });
  });

  it("says nothing where nobody decided anything, and what the plan's smallest is", () => {
    expect(tagProposal(emptyDeck(), "wal", 410, RUN)).toBeNull();
    expect(tagProposal({ ...emptyDeck(), orders: orders({ mark_from_mm: 420 }) }, "wal", 410, RUN)!.tag).toBe(false);
  });

  it("gives the nth fish what was drawn for it", () => {
    const tags = { kind: "pit", before: 3, double: [5], high_reward: [5, 6] };
    const deck = { ...emptyDeck(), runs: [RUN], orders: orders({ tags }), captures: [tagged("a", 400)] };
    expect(tagProposal(deck, "wal", 410, RUN)!.words).toBe("two tags, high reward");
    expect(tagProposal({ ...deck, captures: [] }, "wal", 410, RUN)).toBeNull();
  });
});
