import type { Schemas } from "@/api/schemas";
import { type Event, lastOf } from "../handling/events";
import tables from "./rule-tables.gen.json";

/** Core's `deck.angling` again, for work with no signal; held to it by tests/shared/angling.json. Times in seconds. */
const LONGEST_FIGHT_S = tables.angling.longest_fight_s;

/** Which hook-up each fish in hand, or lost, ended: the oldest that was still open. */
export function fights(hooked: readonly number[], ended: readonly number[]): [began: number, ended: number | null][] {
  const ends = [...ended].sort((a, b) => a - b);
  return [...hooked]
    .sort((a, b) => a - b)
    .map((began) => {
      const place = ends.findIndex((end) => end >= began && end <= began + LONGEST_FIGHT_S);
      return [began, place < 0 ? null : ends.splice(place, 1)[0]!];
    });
}

/** Seconds until the spot is to be fed again; below zero: since when it was due. */
export function feedDue(
  began: number,
  fed: readonly number[],
  now: number,
  feeding?: Schemas["FeedingOrders"] | null,
): number {
  const { first_s, first_for_s, later_s } = feeding ?? tables.angling.feeding;
  const last = Math.max(...fed.filter((each) => each <= now));
  if (!Number.isFinite(last)) return began - now;
  return last + (last - began < first_for_s ? first_s : later_s) - now;
}

/** Fights that go on: begun within the last two hours and not ended. */
export function fightsOn(hooked: readonly number[], ended: readonly number[], now: number): number[] {
  return fights(hooked, ended).flatMap(([began, end]) =>
    end === null && now - began <= LONGEST_FIGHT_S ? [now - began] : [],
  );
}

/** Who fishes in a run, as it was said last. */
export function anglersOf(details: readonly Event[]): string[] {
  const names = String(lastOf(details, "anglers")?.details.names ?? "").split(",");
  return [...new Set(names.map((name) => name.trim().replace(/\s+/g, " ")).filter(Boolean))];
}
