import { describe, expect, it } from "vitest";
import { capture, emptyDeck } from "@/testing/deck";
import shared from "../../../../../../tests/shared/lanes.json";
import { aboardOf, limitsIn, type Moment, SHIPPED_LIMITS, shareBatches, standOf, tokensAt } from "../lanes";

const LANES = shared.lanes.map((each) => ({ ...each, word: each.code }));

describe("lanes as core has them", () => {
  it.each(shared.stands)("$name", ({ came_s, moments, now_s, stand, ...more }) => {
    const told = moments.map(([at_s, what, lane, held_s]) => ({ at_s, what, lane, held_s }) as Moment);
    const found = standOf(came_s, told, now_s, LANES, "held_s" in more ? more.held_s : 0);
    expect(Object.values(found)).toEqual(stand);
  });

  it.each(shared.limits)("limits in $lane of $most_s s", ({ lane, most_s, bounds }) => {
    expect(limitsIn({ code: lane, most_s }, SHIPPED_LIMITS)).toEqual(bounds);
  });

  it.each(shared.batches)("batches: $name", ({ batches, calls, of, left }) => {
    const found = shareBatches(
      batches.map(([at_s, n]) => ({ at_s: at_s!, n: n!, held_s: 0 })),
      Object.entries(calls).map(([key, call]) => [key, call![0]!, call![1]!] as const),
    );
    expect(Object.fromEntries([...found.of].map(([key, batch]) => [key, batch.at_s]))).toEqual(of);
    expect(found.left).toEqual(left);
  });
});

describe("tokens", () => {
  const at = (minutes: number) => new Date(Date.parse("2026-10-12T22:00:00Z") + minutes * 60_000).toISOString();
  const protocol = {
    number: 1,
    values: {
      lanes: [
        { code: "well", word: "Live well", most_min: 30, water: "water" },
        { code: "table", word: "Table", most_min: 5, water: "air" },
      ],
      hand_limits: [],
    },
  };

  it("come forward when they are overdue, fish met again before others that are as late", () => {
    const captures = [
      capture("new", { device_time: at(20) }),
      capture("old", { device_time: at(0) }),
      capture("again", { device_time: at(21), scanned: "known" }),
      capture("gone", { device_time: at(0), release: "released" }),
    ];
    const deck = { ...emptyDeck(), protocol, captures };
    const tokens = tokensAt(aboardOf(deck), Date.parse(at(31)) / 1000).get("well")!;
    expect(tokens.map(({ capture, status }) => [capture.id, status])).toEqual([
      ["old", "over"],
      ["again", "good"],
      ["new", "good"],
    ]);
  });

  it("stay where they are when the clock is set back, and cross midnight and summer time like any minute", () => {
    const over = (time: string) => Date.parse(time) / 1000;
    const captures = [capture("fish", { device_time: "2026-10-25T00:50:00Z" })];
    const moved = {
      id: "m",
      kind: "lane",
      details: { lane: "table" },
      device_time: "2026-10-25T01:10:00Z",
      run: "r",
      capture: "fish",
    };
    const aboard = aboardOf({ ...emptyDeck(), protocol, captures, events: [moved] });
    expect(aboard.latest_s).toBe(over("2026-10-25T01:10:00Z"));
    const [token] = tokensAt(aboard, over("2026-10-25T01:11:00Z")).get("table")!;
    expect(token!.stand).toMatchObject({ aboard_s: 21 * 60, in_lane_s: 60 });
  });

  it("count a fish's air, and the batch it came out of", () => {
    const event = (
      id: string,
      kind: string,
      minutes: number,
      details: Record<string, string | number>,
      of = "fish",
    ) => ({
      id,
      kind,
      details,
      device_time: at(minutes),
      run: "r",
      capture: kind === "batch" ? null : of,
    });
    const deck = {
      ...emptyDeck(),
      protocol,
      captures: [capture("fish", { device_time: at(10) })],
      events: [event("b", "batch", 0, { n: 3 }), event("m", "lane", 12, { lane: "table" })],
    };
    const aboard = aboardOf(deck);
    expect(aboard.uncalled.map(({ left }) => left)).toEqual([2]);
    const [token] = tokensAt(aboard, Date.parse(at(14)) / 1000).get("table")!;
    expect(token!.stand).toMatchObject({ aboard_s: 840, air_s: 120 });
    expect([token!.status, token!.why]).toEqual(["over", "out of water"]);
  });
});
