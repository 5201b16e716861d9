import type { Schemas } from "@/api/client";
import type { Question } from "./believability";
import type { Call } from "./call-line";
import { type CountedFish, countedFish, forPermit } from "./counted";
import tables from "./rule-tables.gen.json";

type Allowance = Schemas["Allowance"];
type Deck = Pick<Schemas["Deck"], "captures"> & Partial<Pick<Schemas["Deck"], "allowances">>;

const NEAR = tables.permits.near;

/** Where more fish take an allowance; tests/shared/permits.json holds it to core. */
export function standing(before: number, more: number, most: number): Allowance["standing"] {
  const after = before + more;
  if (after > most) return "over";
  if (after === most) return "last";
  return after >= NEAR * most ? "near" : "open";
}

/** What a call adds, as the fish that it will be. */
function calledFish(call: Call): CountedFish {
  return {
    species: call.species ?? "",
    length_mm: call.length?.value ?? null,
    measured: call.length !== null && !call.length.estimated,
    mass_g: call.mass?.value ?? null,
    marked: call.scanned === "none" && call.marks.length > 0,
    fate: call.release?.fate ?? "",
    zone: "",
  };
}

export interface Against {
  allowance: Allowance;
  /** Counted before this call. */
  before: number;
  standing: Allowance["standing"];
}

/** The allowances that a call would use, with where it takes each; the one that runs out first is the first. */
export const permitsAgainst = (deck: Deck, call: Call): Against[] => usedBy(deck, calledFish(call), call.count);

/** The allowances that a tag for a fish that is kept already would use: it is counted there for the first time. */
export function permitsForTag(deck: Deck, fish: Schemas["Capture"]): Against[] {
  const before = countedFish(fish);
  return before.marked
    ? []
    : usedBy(deck, { ...before, marked: true }, 1).filter(
        ({ allowance }) => !forPermit(allowance.what, allowance.species ?? "", before),
      );
}

function usedBy({ allowances = [], captures }: Deck, fish: CountedFish, count: number): Against[] {
  return allowances
    .filter(({ what, species = "" }) => forPermit(what, species, fish))
    .map((allowance) => {
      const here = captures
        .filter((each) => forPermit(allowance.what, allowance.species ?? "", countedFish(each)))
        .reduce((sum, each) => sum + each.count, 0);
      const before = allowance.counted + here;
      return { allowance, before, standing: standing(before, count, allowance.most) };
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
