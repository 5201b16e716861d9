import { byTime, type Event } from "../handling/events";
import type { Deck } from "../scope";
import { protocolRows } from "./protocol";
import tables from "./rule-tables.gen.json";

/** Core's `deck.baths` again, for work with no signal; held to it by tests/shared/baths.json. */
export interface BathStep {
  key: string;
  at_s: number;
  what: string;
  details: Record<string, unknown>;
}

export interface Bath {
  litres: number | null;
  mg_l: number;
  agent: string;
  purpose: string;
  stock_mg_ml: number | null;
  filled_at_s: number | null;
  dosed_at_s: number | null;
  /** Doses that are taken for one touch felt twice. */
  twice: string[];
  /** Steps that cannot have been so. */
  undone: string[];
}

export const STOCK_MG_ML: Record<string, number> = { "clove-oil": 105, tricaine: 100 };
const TWICE_WITHIN_S = tables.baths.twice_within_s;

export function bathAfter(steps: readonly BathStep[]): Bath {
  const bath: Bath = {
    litres: null,
    mg_l: 0,
    agent: "none",
    purpose: "",
    stock_mg_ml: null,
    filled_at_s: null,
    dosed_at_s: null,
    twice: [],
    undone: [],
  };
  let lastDose = { ml: Number.NaN, at_s: 0 };
  for (const { key, at_s, what, details } of [...steps].sort((a, b) => a.at_s - b.at_s)) {
    const litres = Number(details.litres ?? 0);
    if (what === "bath_filled") {
      const kept = Math.min(Number(details.kept_l ?? 0), bath.litres ?? 0);
      if (!(litres > 0) || kept > litres) {
        bath.undone.push(key);
        continue;
      }
      // what is left of another agent is not counted in its mg/L
      bath.mg_l = details.agent === bath.agent ? (bath.mg_l * kept) / litres : 0;
      bath.litres = litres;
      bath.agent = String(details.agent);
      bath.purpose = String(details.purpose);
      bath.stock_mg_ml = details.stock_mg_ml ? Number(details.stock_mg_ml) : (STOCK_MG_ML[bath.agent] ?? null);
      bath.filled_at_s = at_s;
      lastDose = { ml: Number.NaN, at_s: 0 };
    } else if (what === "bath_dosed" || what === "bath_exchanged" || what === "bath_topped") {
      if (bath.litres === null) bath.undone.push(key);
      else if (what === "bath_dosed") {
        const ml = Number(details.ml);
        if (bath.stock_mg_ml === null) bath.undone.push(key);
        else if (lastDose.ml === ml && at_s - lastDose.at_s <= TWICE_WITHIN_S && details.again !== "yes")
          bath.twice.push(key);
        else {
          bath.mg_l += (ml * bath.stock_mg_ml) / bath.litres;
          bath.dosed_at_s = at_s;
          lastDose = { ml, at_s };
        }
      } else if (what === "bath_exchanged") {
        if (litres > bath.litres) bath.undone.push(key);
        else bath.mg_l *= 1 - litres / bath.litres;
      } else {
        bath.mg_l = (bath.mg_l * bath.litres) / (bath.litres + litres);
        bath.litres += litres;
      }
    }
  }
  return bath;
}

/** What brings a bath to a strength: mL of stock to add or litres to exchange; null where it was not filled, or has no stock. */
export function adviceFor(bath: Bath, target: number): { add_ml: number; exchange_l: number } | null {
  if (bath.litres === null || bath.stock_mg_ml === null) return null;
  if (bath.mg_l > target) return { add_ml: 0, exchange_l: bath.litres * (1 - target / bath.mg_l) };
  return { add_ml: (bath.litres * (target - bath.mg_l)) / bath.stock_mg_ml, exchange_l: 0 };
}

/** The range that the protocol allows an agent for a purpose, mg/L; null where it names none. */
export function rangeOf(deck: Pick<Deck, "protocol">, agent: string, purpose: string): [number, number] | null {
  const row = protocolRows(deck, "baths").find((each) => each.agent === agent && each.purpose === purpose);
  return row ? [Number(row.low), Number(row.high)] : null;
}

/** Baths of an outing by name, each with what was done to it. */
export function bathsOf(deck: Pick<Deck, "events">): Map<string, { bath: Bath; steps: Event[] }> {
  const byName = new Map<string, Event[]>();
  for (const each of byTime(deck.events)) {
    if (!each.kind.startsWith("bath_")) continue;
    const name = String(each.details.bath);
    byName.set(name, [...(byName.get(name) ?? []), each]);
  }
  return new Map(
    [...byName].map(([name, steps]) => [
      name,
      {
        steps,
        bath: bathAfter(
          steps.map(({ id, kind, details, device_time }) => ({
            key: id,
            at_s: Date.parse(device_time) / 1000,
            what: kind,
            details,
          })),
        ),
      },
    ]),
  );
}

/** What was read last in a tank and does not suit fish, in words: too little oxygen, too far from the water's own temperature. */
export function unfitWater({
  events,
  orders,
  water_readings,
}: Pick<Deck, "events" | "orders" | "water_readings">): string[] {
  const well = orders?.well;
  if (!well) return [];
  const read = byTime(events.filter(({ kind }) => kind === "bath_read"));
  const water = water_readings.findLast(({ temperature_c }) => temperature_c !== null)?.temperature_c ?? null;
  return [...new Set(read.map(({ details }) => String(details.bath)))].flatMap((name) => {
    // a bath that was filled anew holds other water than was read: the warning ends with its cause
    const filled = events.filter(({ kind, details }) => kind === "bath_filled" && details.bath === name);
    const since = Math.max(0, ...filled.map(({ device_time }) => Date.parse(device_time)));
    const last = (what: string) =>
      read.findLast(
        ({ details, device_time }) =>
          details.bath === name && details[what] != null && Date.parse(device_time) >= since,
      )?.details[what];
    const oxygen = last("oxygen_mg_l");
    const degrees = last("temperature_c");
    const apart = degrees != null && water !== null ? Math.abs(Number(degrees) - water) : 0;
    return [
      ...(oxygen != null && well.least_oxygen_mg_l != null && Number(oxygen) < well.least_oxygen_mg_l
        ? [`${name}: oxygen ${oxygen} mg/L, at least ${well.least_oxygen_mg_l}. Aerate or exchange.`]
        : []),
      ...(well.most_degrees != null && apart > well.most_degrees
        ? [`${name}: ${apart.toFixed(1)} °C apart from the water, at most ${well.most_degrees}. Exchange slowly.`]
        : []),
    ];
  });
}

/** How long a fish was in the bath until it lay still, s, from its last way into one; null: not said. */
export function inductionOf(events: readonly Event[]): number | null {
  const stages = events.flatMap(({ kind, details: { lane, stage }, device_time }): [number, number | null][] => {
    if (kind === "lane" && lane === "bath") return [[Date.parse(device_time) / 1000, null]];
    return kind === "stage" ? [[Date.parse(device_time) / 1000, Number(stage)]] : [];
  });
  return timesToLie(stages.sort(([a], [b]) => a - b)).at(-1)?.[1] ?? null;
}

/** From this stage on a fish lies still enough for surgery. */
const STILL_FROM = tables.baths.still_from;

/** Core's `times_to_lie`: each way into a bath, s, and how long the fish then took to lie still. */
export function timesToLie(stages: readonly (readonly [number, number | null])[]): [number, number | null][] {
  const found: [number, number | null][] = [];
  for (const [at, stage] of stages) {
    const last = found.at(-1);
    if (stage === null) found.push([at, null]);
    else if (stage >= STILL_FROM && last && last[1] === null) last[1] = at - last[0];
  }
  return found;
}

export interface Trial {
  done: number;
  wanted: number;
  median_s: number | null;
  went: "going" | "slow" | "fast" | "good";
}

/** Core's `bath_trial`: how a trial of a bath goes, by the first fish whose induction was timed. */
export function bathTrial(inductions: readonly number[], wanted: number, goal_s: number, fast_s: number): Trial {
  const first = inductions.slice(0, Math.max(wanted, 0)).sort((a, b) => a - b);
  const middle = Math.floor(first.length / 2);
  const median = !first.length ? null : first.length % 2 ? first[middle]! : (first[middle - 1]! + first[middle]!) / 2;
  const went =
    median === null || first.length < wanted ? "going" : median > goal_s ? "slow" : median < fast_s ? "fast" : "good";
  return { done: first.length, wanted, median_s: median, went };
}
