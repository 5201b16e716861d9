import { describe, expect, it } from "vitest";
import shared from "../../../../../../tests/shared/counted.json";
import { type CountedFish, forPermit, towardsTarget, withinQuota } from "../counted";

const FISH = Object.entries(shared.fish) as [string, CountedFish][];
const counted = (counts: (fish: CountedFish) => boolean) =>
  FISH.filter(([, fish]) => counts(fish)).map(([name]) => name);

describe("counts the fish that core counts", () => {
  it.each(shared.for_permit)("against a permit: %o", ({ what, species, counts }) =>
    expect(counted((fish) => forPermit(what as never, species, fish))).toEqual(counts),
  );
  it.each(shared.towards_target)("towards a target: %o", ({ counts, ...target }) =>
    expect(counted((fish) => towardsTarget(target as never, fish))).toEqual(counts),
  );
  it.each(shared.within_quota)("within a quota: %o", ({ counts, zone, ...quota }) =>
    expect(counted((fish) => withinQuota({ ...quota, zone }, fish))).toEqual(counts),
  );
});
