import { type Event, eventsByFish } from "../handling/events";
import type { Deck } from "../scope";
import { bandFor, protocolRows } from "./protocol";
import tables from "./rule-tables.gen.json";

/** Core's `deck.lanes` again, for work with no signal; held to it by tests/shared/lanes.json. Times in seconds. */
export interface Lane {
  code: string;
  word: string;
  most_s: number | null;
  in_air: boolean;
  /** Reached by choice only, such as a keep net; not on the way from net to release. */
  aside?: boolean;
}

export interface Moment {
  at_s: number;
  what: "lane" | "out" | "in" | "gone";
  lane?: string;
  held_s?: number;
}

export interface Stand {
  lane: string;
  in_lane_s: number;
  aboard_s: number;
  air_s: number;
  air_now_s: number;
  longest_air_s: number;
}

const SOON = tables.lanes.soon;

/** Where a fish stands that came aboard, into the first lane, held for `held_s` before. */
export function standOf(
  came_s: number,
  moments: readonly Moment[],
  now_s: number,
  lanes: readonly Lane[],
  held_s = 0,
): Stand {
  const inAir = (code: string) => lanes.some((each) => each.code === code && each.in_air);
  let lane = lanes[0]?.code ?? "";
  let entered = came_s;
  let hereBefore = held_s;
  let before = held_s;
  let outSince: number | null = inAir(lane) ? came_s : null;
  let air = 0;
  let longest = 0;
  let end = Math.max(now_s, came_s);
  const inOrder = moments.length > 1 ? [...moments].sort((a, b) => a.at_s - b.at_s) : moments;
  for (const each of inOrder) {
    if (each.at_s > now_s) break;
    const at = Math.max(each.at_s, came_s);
    if (each.what === "gone") {
      lane = "";
      end = at;
      break;
    }
    let out = each.what === "out";
    if (each.what === "lane") {
      const held = each.held_s ?? 0;
      before = Math.max(before, held);
      if (each.lane === lane) {
        hereBefore = Math.max(hereBefore, held);
        continue;
      }
      lane = each.lane!;
      entered = at;
      hereBefore = held;
      out = inAir(lane);
    }
    if (out && outSince === null) outSince = at;
    else if (!out && outSince !== null) {
      air += at - outSince;
      longest = Math.max(longest, at - outSince);
      outSince = null;
    }
  }
  const last = outSince === null ? 0 : end - outSince;
  return {
    lane,
    in_lane_s: end - entered + hereBefore,
    aboard_s: end - came_s + before,
    air_s: air + last,
    air_now_s: lane ? last : 0,
    longest_air_s: Math.max(longest, last),
  };
}

/** A programme's limits for one fish, as the protocol's section has them. */
export interface HandLimits {
  well_minutes: number;
  air_warn_s: number;
  air_alarm_s: number;
  /** Losing balance sooner than this says that the bath is too strong; protocols of before have none. */
  induction_fast_s?: number | null;
  induction_goal_s?: number | null;
  induction_warn_s: number;
  induction_alarm_s: number;
  recovery_goal_s: number;
  recovery_warn_s: number;
}

/** Core's own, where a deck of before has no protocol. */
export const SHIPPED_LIMITS: HandLimits = tables.lanes.shipped_limits;

/** From when a fish is soon to move on from a lane and from when it is over its time, s; null: never. */
export function limitsIn(lane: Pick<Lane, "code" | "most_s">, limits: HandLimits): [number, number] | null {
  const own: [number, number] | null =
    lane.code === "well"
      ? [SOON * limits.well_minutes * 60, limits.well_minutes * 60]
      : lane.code === "bath"
        ? [limits.induction_warn_s, limits.induction_alarm_s]
        : lane.code === "recovery"
          ? [limits.recovery_goal_s, limits.recovery_warn_s]
          : null;
  if (lane.most_s === null) return own;
  if (own === null || lane.most_s < own[1]) return [SOON * lane.most_s, lane.most_s];
  return own;
}

export interface Batch {
  at_s: number;
  n: number;
  held_s: number;
  /** Of the whole batch, where it was said. */
  mass_g?: number | null;
}

/** Which batch each called fish came out of, and how many of each batch were not called yet; the oldest first. */
export function shareBatches(
  batches: readonly Batch[],
  calls: readonly (readonly [key: string, at_s: number, n: number])[],
): { of: Map<string, Batch>; left: number[] } {
  const inOrder = [...batches].sort((a, b) => a.at_s - b.at_s);
  const left = inOrder.map(({ n }) => n);
  const of = new Map<string, Batch>();
  for (const [key, at, n] of [...calls].sort((a, b) => a[1] - b[1] || (a[0] < b[0] ? -1 : 1))) {
    let wanted = n;
    for (const [place, batch] of inOrder.entries()) {
      if (batch.at_s > at || !left[place] || wanted === 0) continue;
      if (!of.has(key)) of.set(key, batch);
      const taken = Math.min(wanted, left[place]);
      left[place] -= taken;
      wanted -= taken;
    }
  }
  return { of, left };
}

/** The programme's lanes, as the outing goes by them. */
export function lanesOf(deck: Pick<Deck, "protocol">): Lane[] {
  return protocolRows(deck, "lanes").map(({ code, word, most_min, water, aside }) => ({
    code: String(code),
    word: String(word),
    most_s: most_min === null ? null : Number(most_min) * 60,
    // protocols of before did not say: fish lie in air on the table
    in_air: water === "air" || (water == null && code === "table"),
    aside: aside === "yes",
  }));
}

type LimitsOf = (species: string, mm: number | null) => HandLimits;
const limitsByProtocol = new WeakMap<object, LimitsOf>();

/** Limits for one fish in hand, by its species and length: the same object for the same band. */
function limitsOf(deck: Pick<Deck, "protocol">): LimitsOf {
  const known = limitsByProtocol.get(deck.protocol);
  if (known) return known;
  const rows = protocolRows(deck, "hand_limits");
  const full = new Map(rows.map((row) => [row, { ...SHIPPED_LIMITS, ...row } as unknown as HandLimits]));
  // lengths at which another row may hold: between two of them nothing changes
  const steps = [...new Set(rows.map(({ from_mm }) => Number(from_mm)))].sort((a, b) => a - b);
  const found = new Map<string, HandLimits>();
  const limits: LimitsOf = (species, mm) => {
    const key = `${species} ${steps.findLastIndex((step) => step <= (mm ?? 0))}`;
    let of = found.get(key);
    if (!of) {
      const row = bandFor(rows, species, mm);
      of = (row && full.get(row)) ?? SHIPPED_LIMITS;
      found.set(key, of);
    }
    return of;
  };
  limitsByProtocol.set(deck.protocol, limits);
  return limits;
}

/** Limits for one fish in hand, by its species and length. */
export function handLimitsFor(deck: Pick<Deck, "protocol">, species: string, mm: number | null): HandLimits {
  return limitsOf(deck)(species, mm);
}

/** A fish aboard, as its token shows it. */
export interface Token {
  capture: Deck["captures"][number];
  stand: Stand;
  lane: Lane;
  /** Share of its time in the lane, or out of water, that has gone: over 1 it is late. */
  share: number;
  status: "good" | "soon" | "over";
  /** Why it is not good, in a few words. */
  why: string;
  waitsForMass: boolean;
  /** Met again: such fish go first. */
  recapture: boolean;
}

const RANK = { over: 0, soon: 1, good: 2 };
const seconds = (time: string) => Date.parse(time) / 1000;

export interface FishAboard {
  capture: Token["capture"];
  came_s: number;
  held_s: number;
  moments: Moment[];
  limits: HandLimits;
  waitsForMass: boolean;
}

/** What the lanes are reckoned from, got together once for each change of the deck and not for each tick of the clock. */
export interface Aboard {
  lanes: Lane[];
  fish: FishAboard[];
  /** Fish of batches that have not been called yet, with when they came. */
  uncalled: (Batch & { left: number })[];
  /** When the last of it happened by the device's clock: no time before it can be now. */
  latest_s: number;
}

const NOTHING: Event[] = [];
/** Fish of which nothing was said and that came out of no batch: most of them, and not reckoned anew at each call. */
const plain = new WeakMap<Token["capture"], FishAboard>();

/** Fish that are aboard, with what happened to each. */
export function aboardOf(deck: Deck): Aboard {
  const lanes = lanesOf(deck);
  const recorded = eventsByFish(deck.events);
  const batches = deck.events
    .filter(({ kind }) => kind === "batch")
    .map(({ details, device_time }) => ({
      at_s: seconds(device_time),
      n: Number(details.n),
      held_s: Number(details.held_min ?? 0) * 60,
      mass_g: details.mass_kg == null ? null : Number(details.mass_kg) * 1000,
    }));
  const shared = batches.length
    ? shareBatches(
        batches,
        deck.captures.map(({ id, device_time, count }) => [id, seconds(device_time), count ?? 1] as const),
      )
    : null;
  const limits = limitsOf(deck);
  const fish = deck.captures
    .filter(({ release }) => !release)
    .map((capture): FishAboard => {
      const events = recorded.get(capture.id) ?? NOTHING;
      const batch = shared?.of.get(capture.id);
      const known = plain.get(capture);
      if (known && events === NOTHING && !batch && known.limits === limits(capture.species, capture.length_mm))
        return known;
      const of = {
        capture,
        came_s: batch?.at_s ?? seconds(capture.device_time),
        held_s: batch?.held_s ?? 0,
        moments: momentsOf(events),
        limits: limits(capture.species, capture.length_mm),
        waitsForMass:
          events.findLast(({ kind }) => kind === "mass_waits")?.details.waits === "yes" && capture.mass_g === null,
      };
      if (events === NOTHING && !batch) plain.set(capture, of);
      return of;
    });
  const inOrder = [...batches].sort((a, b) => a.at_s - b.at_s);
  const uncalled = (shared?.left ?? []).flatMap((left, place) => (left > 0 ? [{ ...inOrder[place]!, left }] : []));
  let latest_s = 0;
  for (const { came_s, moments } of fish) {
    latest_s = Math.max(latest_s, came_s);
    for (const { at_s } of moments) latest_s = Math.max(latest_s, at_s);
  }
  return { lanes, fish, uncalled, latest_s };
}

/** What moved a fish, out of all that was said of it. */
export function momentsOf(events: readonly Event[]): Moment[] {
  return events.flatMap(({ kind, details, device_time }): Moment[] => {
    const at_s = seconds(device_time);
    if (kind === "lane")
      return [{ at_s, what: "lane", lane: String(details.lane), held_s: Number(details.held_min ?? 0) * 60 }];
    if (kind === "air") return [{ at_s, what: details.where === "out" ? "out" : "in" }];
    return [];
  });
}

/** Tokens by lane, those that wait longest over their time first, fish met again before others that are as late. */
export function tokensAt({ lanes, fish }: Aboard, now_s: number): Map<string, Token[]> {
  const found = new Map<string, Token[]>(lanes.map(({ code }) => [code, []]));
  for (const { capture, came_s, held_s, moments, limits, waitsForMass } of fish) {
    const stand = standOf(came_s, moments, now_s, lanes, held_s);
    const lane = lanes.find(({ code }) => code === stand.lane) ?? {
      code: stand.lane,
      word: stand.lane,
      most_s: null,
      in_air: false,
    };
    const bounds = limitsIn(lane, limits);
    const byLane = judge(stand.in_lane_s, bounds);
    const byAir = judge(stand.air_now_s, [limits.air_warn_s, limits.air_alarm_s]);
    const worse = RANK[byAir.status] < RANK[byLane.status] ? byAir : byLane;
    const token: Token = {
      capture,
      stand,
      lane,
      share: Math.max(byLane.share, byAir.share),
      status: worse.status,
      why:
        worse.status === "good"
          ? ""
          : worse === byAir
            ? "out of water"
            : worse.status === "over"
              ? "over its time"
              : "soon to move on",
      waitsForMass,
      recapture: capture.scanned === "known",
    };
    const there = found.get(lane.code);
    if (there) there.push(token);
    else found.set(lane.code, [token]);
  }
  for (const tokens of found.values()) tokens.sort(byUrgency);
  return found;
}

/** What is over its time first; of those as late, fish met again, and then who has waited the larger share of its time. */
function byUrgency(a: Token, b: Token): number {
  return RANK[a.status] - RANK[b.status] || Number(b.recapture) - Number(a.recapture) || b.share - a.share;
}

/** The fish that presses most, in any lane. */
export function mostPressing(deck: Deck): Token | null {
  return [...tokensAt(aboardOf(deck), Date.now() / 1000).values()].flat().sort(byUrgency)[0] ?? null;
}

function judge(waited: number, bounds: [number, number] | null): { status: Token["status"]; share: number } {
  if (!bounds) return { status: "good", share: 0 };
  const status = waited >= bounds[1] ? "over" : waited >= bounds[0] ? "soon" : "good";
  return { status, share: waited / bounds[1] };
}

/** Where a fish goes next from a lane; from the last one, and from one to the side, out of the boat: null. */
export function nextLane(lanes: readonly Lane[], code: string): Lane | null {
  const place = lanes.findIndex((each) => each.code === code);
  if (place < 0 || lanes[place]!.aside) return null;
  return lanes.slice(place + 1).find(({ aside }) => !aside) ?? null;
}
