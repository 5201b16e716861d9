import { describe, expect, it } from "vitest";
import { capture, emptyDeck, RUN } from "@/testing/deck";
import shared from "../../../../../../tests/shared/tagging.json";
import { drawnFor, propose, quotaFor, tagProposal } from "../tagging";

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

describe("as core does", () => {
  it.each(shared.quota_for)("the quota of a fish: %o", ({ species, mm, zone, most }) =>
    expect(quotaFor(shared.quotas, species, mm, zone)?.most ?? null).toBe(most),
  );
  it.each(shared.drawn)("what was drawn: %o", ({ nth, drawn, ...tags }) => expect(drawnFor(nth, tags)).toEqual(drawn));
  it.each(shared.propose)("who is tagged next: %o", ({ species, mm, tagged_mm, from_mm, double, tag, why, done }) => {
    const zone = "Lower river";
    const tagged = tagged_mm.map((length_mm) => ({
      ...{ species: "wal", length_mm, measured: length_mm !== null },
      ...{ mass_g: null, marked: true, fate: "", zone },
    }));
    const quotas = [quota({ zone, to_mm: 450, most: 4, placed: 1 })];
    const drawn = drawnFor(tagged.length + 1, { before: 0, double, high_reward: [] });
    expect(propose({ species, mm, zone, tagged, quotas, from: from_mm, drawn })).toMatchObject({ tag, why, done });
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
