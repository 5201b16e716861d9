import type { Schemas } from "@/api/client";
import type { Question } from "./believability";
import type { Call } from "./call-line";

type Allowance = Schemas["Allowance"];
type Deck = Pick<Schemas["Deck"], "captures"> & Partial<Pick<Schemas["Deck"], "allowances">>;
type Capture = Schemas["Capture"];

const NEAR = 0.8;

/** Where more fish take an allowance; tests/shared/permits.json holds it to core. */
export function standing(before: number, more: number, most: number): Allowance["standing"] {
  const after = before + more;
  if (after > most) return "over";
  if (after === most) return "last";
  return after >= NEAR * most ? "near" : "open";
}

const COUNTS: Record<Allowance["what"], (fish: Capture) => boolean> = {
  captured: () => true,
  handled: (fish) => fish.length_mm !== null || fish.mass_g !== null || (fish.placed?.length ?? 0) > 0,
  tagged: (fish) => (fish.placed?.length ?? 0) > 0,
  killed: ({ release }) => release === "dead" || release === "kept",
};

/** Whether a call adds to what an allowance counts. */
const ADDS: Record<Allowance["what"], (call: Call) => boolean> = {
  captured: () => true,
  handled: (call) => call.length !== null || call.mass !== null,
  tagged: (call) => call.scanned === "none" && call.marks.length > 0,
  killed: ({ release }) => release?.fate === "dead" || release?.fate === "kept",
};

export interface Against {
  allowance: Allowance;
  /** Counted before this call. */
  before: number;
  standing: Allowance["standing"];
}

/** The allowances that a call would use, with where it takes each; the one that runs out first is the first. */
export function permitsAgainst({ allowances = [], captures }: Deck, call: Call): Against[] {
  return allowances
    .filter((each) => (!each.species || each.species === call.species) && ADDS[each.what](call))
    .map((allowance) => {
      const here = captures
        .filter((fish) => (!allowance.species || fish.species === allowance.species) && COUNTS[allowance.what](fish))
        .reduce((sum, { count }) => sum + count, 0);
      const before = allowance.counted + here;
      return { allowance, before, standing: standing(before, call.count, allowance.most) };
    })
    .sort((a, b) => a.allowance.most - a.before - (b.allowance.most - b.before));
}

/** What is asked before a fish is kept that is the last a permit allows, or beyond it; the reason then stands in the note. */
export function permitQuestion(against: readonly Against[]): Question | null {
  const first = against.find((each) => each.standing === "over") ?? against.find((each) => each.standing === "last");
  if (!first) return null;
  const { allowance, before } = first;
  const what = `${allowance.species_name} ${allowance.what}`;
  if (first.standing === "last")
    return {
      code: "permit_last",
      weight: "ask",
      message: `The last of ${allowance.most} ${what} that ${allowance.permit} allows.`,
    };
  return {
    code: "permit_over",
    weight: "ask",
    message: `${allowance.permit} allows ${allowance.most} ${what}; ${before} are counted. Beyond it: the lead is told, with your reason.`,
  };
}
