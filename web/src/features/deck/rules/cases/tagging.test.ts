import { describe, expect, it } from "vitest";
import { capture, emptyDeck, RUN } from "@/testing/deck";
import shared from "../../../../../../tests/shared/tagging.json";
import type { Recognised } from "../marks";
import {
  drawnFor,
  placeInDraw,
  propose,
  quotaFor,
  smallestToTag,
  tagLimit,
  tagProposal,
  tagQuestion,
  tagSize,
  type Unfit,
  unfitForTag,
} from "../tagging";

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
  it.each(shared.place_in_draw)("a place in the draw: %o", ({ tagged, wanted, place }) =>
    expect(
      placeInDraw(
        tagged.map((species) => ({ species })),
        wanted,
      ),
    ).toBe(place),
  );
  it.each(shared.smallest)("the strictest limit: %o", ({ limits, mm }) => expect(smallestToTag(...limits)).toBe(mm));
  it.each(shared.size)("the protocol's smallest: %o", ({ species, kind, mm }) => {
    expect(tagSize(shared.size_rows, species, kind)).toBe(mm);
    expect(tagSize([], species, kind)).toBeNull();
  });
  it.each(shared.unfit)("a fish to be asked about: %o", ({ details, condition, fate, unfit }) =>
    expect(unfitForTag(details, condition, fate)).toEqual(unfit),
  );
  it.each(shared.drawn)("what was drawn: %o", ({ nth, drawn, ...tags }) => expect(drawnFor(nth, tags)).toEqual(drawn));
  it.each(shared.propose)(
    "who is tagged next: %o",
    ({ species, mm, tagged_mm, from_mm, wanted, unfit, double, tag, why, done }) => {
      const zone = "Lower river";
      const tagged = tagged_mm.map((length_mm) => ({
        ...{ species: "wal", length_mm, measured: length_mm !== null },
        ...{ mass_g: null, marked: true, fate: "", zone },
      }));
      const quotas = [quota({ zone, to_mm: 450, most: 4, placed: 1 })];
      const drawn = drawnFor(placeInDraw(tagged, wanted), { before: 0, double, high_reward: [] });
      expect(
        propose({ species, mm, zone, tagged, quotas, from: from_mm, drawn, wanted, unfit: unfit as Unfit[] }),
      ).toMatchObject({ tag, why, done });
    },
  );
});

const WAL = { species: "wal", mm: 410, run: RUN.id };

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
    expect(tagProposal(deck, WAL)).toEqual({ tag: true, why: "quota", words: "2 of 4" });
    const full = { ...deck, captures: [tagged("a", 400), tagged("b", 350), tagged("c", 600)] };
    expect(tagProposal(full, WAL)).toEqual({ tag: false, why: "full", words: "quota full, 4 of 4" });
  });

  it("says nothing where nobody decided anything, and what the plan's smallest is", () => {
    expect(tagProposal(emptyDeck(), WAL)).toBeNull();
    expect(tagProposal({ ...emptyDeck(), orders: orders({ mark_from_mm: 420 }) }, WAL)).toEqual({
      tag: false,
      why: "small",
      words: "under 420 mm, the plan's limit",
    });
  });

  it("gives the nth fish what was drawn for it", () => {
    const tags = { kind: "pit", species: [], before: 3, double: [5], high_reward: [5, 6] };
    const deck = { ...emptyDeck(), runs: [RUN], orders: orders({ tags }), captures: [tagged("a", 400)] };
    expect(tagProposal(deck, WAL)!.words).toBe("two tags, high reward");
    expect(tagProposal({ ...deck, captures: [] }, WAL)).toBeNull();
  });

  it("has one limit for the board, the words and the question: the strictest of plan, protocol and species", () => {
    const deck = (plan: number | null, own: number | null, protocol: object[] = [], species: string[] = []) => ({
      ...emptyDeck(),
      species: emptyDeck().species.map((each) => ({ ...each, smallest_to_tag_mm: own })),
      protocol: { version: 1, values: { tag_sizes: protocol } } as never,
      orders: orders({ mark_from_mm: plan, tags: { species, before: 0, double: [], high_reward: [] } }),
    });
    expect(tagLimit(deck(250, 300), "wal")).toEqual({ mm: 300, whose: "species'" });
    expect(tagLimit(deck(350, 300), "wal")).toEqual({ mm: 350, whose: "plan's" });
    const row = { species: "wal", kind: "acoustic", from_mm: 450 };
    expect(tagLimit(deck(350, 300, [row]), "wal")).toEqual({ mm: 350, whose: "plan's" });
    expect(tagLimit(deck(350, 300, [row]), "wal", "acoustic")).toEqual({ mm: 450, whose: "protocol's" });
    expect(tagLimit(deck(350, 300, [], ["nop"]), "wal")).toBeNull();
    expect(tagProposal(deck(null, null, [], ["nop"]), WAL)).toMatchObject({ tag: false, why: "species" });
  });

  it("asks before a tag from stock goes into a fish that should carry none", () => {
    const stock = { kind: "pit", number: "1", meaning: "stock" } as Recognised;
    const known = { kind: "pit", number: "1", meaning: "known" } as Recognised;
    const small = { tag: false, why: "small", words: "under 250 mm, the plan's limit" } as const;
    expect(tagQuestion(small, [stock])).toEqual({
      code: "small_for_tag",
      weight: "ask",
      message: "No tag for this fish: under 250 mm, the plan's limit.",
    });
    expect(tagQuestion(small, [known])).toBeNull();
    expect(tagQuestion(small, [])).toBeNull();
    expect(tagQuestion({ ...small, tag: true, why: "quota" }, [stock])).toBeNull();
    expect(tagQuestion(null, [stock])).toBeNull();
  });
});
