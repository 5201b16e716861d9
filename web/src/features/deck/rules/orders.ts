import type { Schemas } from "@/api/client";
import { figuresOf } from "../operations/water-record";
import type { Question } from "./believability";
import { countedFish, towardsTarget } from "./counted";
import type { Recognised } from "./marks";

type Deck = Schemas["Deck"];

/** Checklists that nobody has signed or passed over yet. */
export function toSign({ checklists }: Deck): Deck["checklists"] {
  return checklists.filter(({ signature }) => signature === null);
}

/** Ambient conductivity of the water as it was read last, µS/cm; null where it was not read or cannot be reckoned. */
export function ambientNow({ orders, water_readings }: Deck): number | null {
  const ambient = ({ ambient_us_cm, specific_us_cm, temperature_c }: Schemas["WaterReading"]) => {
    const share = temperature_c === null ? undefined : orders?.electro?.ambient_shares[Math.round(temperature_c)];
    return ambient_us_cm ?? (specific_us_cm !== null && share ? specific_us_cm * share : null);
  };
  return water_readings.map(ambient).findLast((us_cm) => us_cm !== null) ?? null;
}

/** The plan's goal in the water as it was read last, or as the plan reckoned with it; core has worked all of them out. */
export function goalNow(deck: Deck): { goal: Schemas["Goal"]; read: boolean } | null {
  if (!deck.orders?.electro) return null;
  const { goals, today_us_cm } = deck.orders.electro;
  const read = ambientNow(deck);
  const wanted = read ?? today_us_cm;
  const far = ({ us_cm }: Schemas["Goal"]) => Math.abs(Math.log(us_cm / wanted));
  const nearest = goals.reduce((best, each) => (far(each) < far(best) ? each : best));
  // a water between two rows gets the stricter limit of the two
  const below = goals.findLast(({ us_cm }) => us_cm <= wanted) ?? nearest;
  const above = goals.find(({ us_cm }) => us_cm >= wanted) ?? nearest;
  const strictest = Math.min(below.most_volts, above.most_volts);
  const goal = { ...nearest, volts: Math.min(nearest.volts, strictest), most_volts: strictest };
  return { goal, read: read != null };
}

/** What the plan's unit or limits do not allow of a run's settings, in words by field; empty where all is within. */
export function beyondOrders(
  deck: Deck,
  settings: Record<"volts" | "amps" | "pulse_hz", number>,
): Partial<Record<"volts" | "amps" | "pulse_hz" | "pulse_width_ms", string>> {
  const now = goalNow(deck);
  if (!now || !deck.orders?.electro) return {};
  const { most_amps, most_hz } = deck.orders.electro;
  const words = (value: number, most: number, unit: string) =>
    value > most ? `The plan allows at most ${most} ${unit} in this water.` : undefined;
  return {
    volts: words(settings.volts, now.goal.most_volts, "V"),
    amps: words(settings.amps, most_amps, "A"),
    pulse_hz: words(settings.pulse_hz, most_hz, "Hz"),
  };
}

/** The question to ask where a tag from stock is to go into a fish that the plan leaves untagged. */
export function smallForTag({ orders }: Deck, length: number | null, recognised: Recognised[]): Question | null {
  const from = orders?.mark_from_mm;
  if (from == null || length === null || length >= from) return null;
  if (!recognised.some(({ meaning }) => meaning === "stock")) return null;
  return {
    code: "small_for_tag",
    weight: "ask",
    message: `The plan tags fish from ${from} mm on; this one has ${Math.round(length)} mm.`,
  };
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

/** Why no more fish should go into the live well, in words; null where it holds more, or nothing is ordered. */
export function wellFull(deck: Deck): string | null {
  const well = deck.orders?.well;
  if (!well) return null;
  const aboard = deck.captures.filter(({ release }) => !release);
  const fish = aboard.reduce((sum, { count = 1 }) => sum + count, 0);
  const grams = aboard.reduce((sum, { mass_g }) => sum + (mass_g ?? 0), 0);
  if (grams > well.most_g)
    return `Weighed fish aboard: ${(grams / 1000).toFixed(1)} kg; ${well.litres} L hold ${(well.most_g / 1000).toFixed(1)} kg.`;
  return fish > well.most_fish ? `${fish} fish aboard; the plan's live well holds ${well.most_fish} large ones.` : null;
}

/** Titles of what the protocol asks to be read and nobody has read: once an outing, or in the run that goes. */
export function toRead({ readings, water_readings, runs }: Deck): string[] {
  const run = runs.findLast(({ ended_at }) => ended_at === null);
  const ofRun = water_readings.filter((each) => each.run === run?.id);
  const waits = ({ code, asked }: Schemas["Reading"]) =>
    asked === "outing"
      ? !water_readings.some((each) => figuresOf(each)[code] != null)
      : asked === "run" && !!run && !ofRun.some((each) => figuresOf(each)[code] != null);
  // conductivity is read one way or the other
  const waiting = readings.filter(waits).map(({ code }) => code);
  const one = ["ambient_us_cm", "specific_us_cm"];
  const enough = one.some((code) => readings.some((each) => each.code === code) && !waiting.includes(code));
  return readings
    .filter(({ code }) => waiting.includes(code) && !(enough && one.includes(code)))
    .map(({ title }) => title.toLowerCase());
}
