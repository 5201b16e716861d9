import type { Schemas } from "@/api/client";
import tables from "./rule-tables.gen.json";

type Species = Schemas["DeckSpecies"];
type Slip = Schemas["Slip"];

export interface Fish {
  length: number | null;
  mass: number | null;
}

export interface Repair {
  code: string;
  label: string;
  fish: Fish;
}

export interface Question {
  code:
    | "length_impossible"
    | "length_unusual"
    | "mass_off"
    | "mass_far_off"
    | "small_for_tag"
    | "species_for_tag"
    | "unfit_for_tag"
    | "quota_full"
    | "shrank"
    | "permit_last"
    | "permit_over";
  message: string;
  weight: "ask" | "ask twice" | "refuse";
}

export interface Doubts {
  questions: Question[];
  repairs: Repair[];
}

const MAX_REPAIRS = tables.believability.max_repairs;

/**
 * Judges a called fish by the table that core made for its species: reads the limits at the length, and offers the
 * slips that would land inside them. Held to core's own answers by tests/shared/believability.json.
 */
export function judge(species: Species, fish: Fish, slips: Slip[], previous: Fish | null): Doubts {
  const questions: Question[] = [];
  const { length, mass } = fish;
  const [hardLow, hardHigh] = species.bounds_mm as [number, number];
  const [low, high] = species.usual_mm as [number, number];
  if (length !== null && (length < hardLow || length > hardHigh)) {
    questions.push({
      code: "length_impossible",
      weight: "refuse",
      message: `No ${species.name} is ${round(length)} mm; expected ${hardLow} to ${hardHigh} mm.`,
    });
  } else if (length !== null && (length < low || length > high)) {
    questions.push({
      code: "length_unusual",
      weight: "ask",
      message: `${round(length)} mm is ${length < low ? "short" : "long"} for ${species.name}; usually ${low} to ${high} mm.`,
    });
  }
  if (length !== null && mass !== null) {
    const limits = limitsAt(species.mass_table, length);
    if (mass < limits.low || mass > limits.high) {
      const far = mass < limits.farLow || mass > limits.farHigh;
      questions.push({
        code: far ? "mass_far_off" : "mass_off",
        weight: far ? "ask twice" : "ask",
        message: `${round(mass)} g is ${far ? "far too " : ""}${mass < limits.low ? "light" : "heavy"} for ${round(length)} mm; expected ${round(limits.low)} to ${round(limits.high)} g by ${species.line_is_own ? "this programme's own fish" : "the general line"}.`,
      });
    }
  }
  return { questions, repairs: questions.length ? repairsFor(species, fish, slips, previous) : [] };
}

const SHRINKS_MM = tables.believability.shrinks_mm;
const SHRINKS_SHARE = tables.believability.shrinks_share;

/** The question about a known fish that is shorter than when it was met last; tests/shared/growth.json holds it to core. */
export function shrank(lastMm: number, lengthMm: number): Question | null {
  if (lastMm - lengthMm <= Math.max(SHRINKS_MM, SHRINKS_SHARE * lastMm)) return null;
  return {
    code: "shrank",
    weight: "ask",
    message: `It was ${round(lastMm)} mm when it was met last; ${round(lengthMm)} mm is ${round(lastMm - lengthMm)} mm shorter. Another fish, or a slip?`,
  };
}

function repairsFor(species: Species, fish: Fish, slips: Slip[], previous: Fish | null): Repair[] {
  const { length, mass } = fish;
  const tried: Repair[] = [];
  for (const { code, label, what, factor } of slips) {
    if (what === "length" && length !== null)
      tried.push({ code, label, fish: { length: Number((length * factor).toFixed(1)), mass } });
    if (what === "mass" && mass !== null)
      tried.push({ code, label, fish: { length, mass: Number((mass * factor).toFixed(2)) } });
  }
  if (length !== null && mass !== null) {
    tried.push({ code: "exchanged", label: "length and mass exchanged", fish: { length: mass, mass: length } });
    if (previous && previous.mass === mass)
      tried.push({
        code: "mass_repeated",
        label: "last fish's mass repeated: leave it out",
        fish: { length, mass: null },
      });
  }
  for (const swapped of swaps(length))
    tried.push({ code: "length_digits", label: "two digits swapped", fish: { length: swapped, mass } });
  for (const swapped of swaps(mass))
    tried.push({ code: "mass_digits", label: "two digits swapped", fish: { length, mass: swapped } });
  return tried.filter((repair) => believable(species, repair.fish)).slice(0, MAX_REPAIRS);
}

function believable(species: Species, { length, mass }: Fish): boolean {
  const [low, high] = species.usual_mm as [number, number];
  if (length !== null && (length < low || length > high)) return false;
  if (length === null || mass === null) return true;
  const limits = limitsAt(species.mass_table, length);
  return mass >= limits.low && mass <= limits.high;
}

/** The mass limits at a length: a straight line between the two rows about it. */
function limitsAt(table: Schemas["MassTable"], length: number) {
  const rows = table.length_mm;
  let above = rows.findIndex((mm) => mm > length);
  if (above < 0) above = rows.length - 1;
  const below = Math.max(0, above - 1);
  const share = above === below ? 0 : (length - rows[below]!) / (rows[above]! - rows[below]!);
  const at = (column: number[]) => column[below]! + share * (column[above]! - column[below]!);
  return { farLow: at(table.far_low_g), low: at(table.low_g), high: at(table.high_g), farHigh: at(table.far_high_g) };
}

function swaps(value: number | null): number[] {
  if (value === null || !Number.isInteger(value)) return [];
  const digits = String(value);
  const found: number[] = [];
  for (let i = 0; i < digits.length - 1; i++) {
    if (digits[i] === digits[i + 1]) continue;
    const swapped = digits.slice(0, i) + digits[i + 1] + digits[i] + digits.slice(i + 2);
    if (!swapped.startsWith("0")) found.push(Number(swapped));
  }
  return found;
}

function round(value: number): string {
  return Number(value.toPrecision(value >= 100 ? 4 : 3)).toString();
}
