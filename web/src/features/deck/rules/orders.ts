import type { Schemas } from "@/api/client";
import { figuresOf } from "../operations/water-record";
import { countedFish, towardsTarget } from "./counted";

type Deck = Schemas["Deck"];

/** Checklists that nobody has signed or passed over yet. */
export function toSign({ checklists }: Deck): Deck["checklists"] {
  return checklists.filter(({ signature }) => signature === null);
}

type Conductivity = Pick<Schemas["WaterReading"], "ambient_us_cm" | "specific_us_cm" | "temperature_c">;

/** Ambient conductivity of one reading, µS/cm; null where it was not read and cannot be computed. */
export function ambientRead(
  { ambient_us_cm, specific_us_cm, temperature_c }: Conductivity,
  shares: readonly number[],
): number | null {
  const share = temperature_c === null ? undefined : shares[Math.round(temperature_c)];
  return ambient_us_cm ?? (specific_us_cm !== null && share ? specific_us_cm * share : null);
}

/** That of the last reading that has one. */
export function ambientNow({ orders, water_readings }: Deck): number | null {
  const shares = orders?.electro?.ambient_shares ?? [];
  return water_readings.map((each) => ambientRead(each, shares)).findLast((us_cm) => us_cm !== null) ?? null;
}

/** The goal of the row whose water is nearest by ratio, with the stricter limit of the two rows that the water lies between. */
export function goalIn(goals: readonly Schemas["Goal"][], wanted: number): Schemas["Goal"] {
  const far = ({ us_cm }: Schemas["Goal"]) => Math.abs(Math.log(us_cm / wanted));
  const nearest = goals.reduce((best, each) => (far(each) < far(best) ? each : best));
  const below = goals.findLast(({ us_cm }) => us_cm <= wanted) ?? nearest;
  const above = goals.find(({ us_cm }) => us_cm >= wanted) ?? nearest;
  const most_volts = Math.min(below.most_volts, above.most_volts);
  return { ...nearest, volts: Math.min(nearest.volts, most_volts), most_volts };
}

/** The plan's goal in the water as it was read last, or as the plan reckoned with it; core has worked all of them out. */
export function goalNow(deck: Deck): { goal: Schemas["Goal"]; read: boolean } | null {
  if (!deck.orders?.electro) return null;
  const { goals, today_us_cm } = deck.orders.electro;
  const read = ambientNow(deck);
  return { goal: goalIn(goals, read ?? today_us_cm), read: read != null };
}

/** What the plan's unit or limits do not allow of a run's settings, in words by field; empty where all is within. */
export function beyondOrders(
  deck: Deck,
  settings: Record<"volts" | "amps" | "pulse_hz", number>,
): Partial<Record<"volts" | "amps" | "pulse_hz" | "pulse_width_ms", string>> {
  const now = goalNow(deck);
  if (!now || !deck.orders?.electro) return {};
  const { most_amps, most_hz } = deck.orders.electro;
  const most = { volts: now.goal.most_volts, amps: most_amps, pulse_hz: most_hz };
  const beyond = beyondLimits(settings, most);
  return Object.fromEntries(
    beyond.map((name) => [name, `The plan allows at most ${most[name]} ${UNIT[name]} in this water.`]),
  );
}

const UNIT = { volts: "V", amps: "A", pulse_hz: "Hz" };

/** Names of the settings that are above what is allowed; one that is not known is within. */
export function beyondLimits<Name extends string>(settings: Record<Name, number>, most: Record<Name, number>): Name[] {
  return (Object.keys(most) as Name[]).filter((name) => settings[name] > most[name]);
}

/** How many fish of this outing count towards a target. */
export function doneOf({ captures, runs, sites }: Deck, target: Omit<Schemas["Target"], "id" | "wanted">): number {
  const zone = zonesOf(runs, sites);
  return captures.filter((each) => towardsTarget(target, countedFish(each, zone(each.run)))).length;
}

/** The zone in which a run was fished. */
export function zonesOf(runs: Deck["runs"], sites: Deck["sites"]): (run: string) => string {
  const zoneOf = new Map(sites.map(({ id, zone }) => [id, zone]));
  const siteOf = new Map(runs.map(({ id, site }) => [id, site]));
  return (run) => zoneOf.get(siteOf.get(run) ?? "") ?? "";
}

/** Titles of what the protocol asks to be read and nobody has read: once an outing, or in the run that goes. */
export function toRead({ readings, water_readings, runs }: Deck): string[] {
  const run = runs.findLast(({ ended_at }) => ended_at === null);
  const ofRun = water_readings.filter((each) => each.run === run?.id);
  const waits = ({ name, asked }: Schemas["Reading"]) =>
    asked === "outing"
      ? !water_readings.some((each) => figuresOf(each)[name] != null)
      : asked === "run" && !!run && !ofRun.some((each) => figuresOf(each)[name] != null);
  // conductivity is read one way or the other
  const waiting = readings.filter(waits).map(({ name }) => name);
  const one = ["ambient_us_cm", "specific_us_cm"];
  const enough = one.some((code) => readings.some(({ name }) => name === code) && !waiting.includes(code));
  return readings
    .filter(({ name }) => waiting.includes(name) && !(enough && one.includes(name)))
    .map(({ title }) => title.toLowerCase());
}
