import type { Schemas } from "@/api/schemas";
import { FATES, type GoesBy, protocolRows, wordFor } from "./protocol";

type Capture = Schemas["Capture"];
export type Fate = Exclude<Capture["release"], "">;

/** What is said of how a fish left; without a fate only what is there changes, and a fate of null means that it is aboard. */
export interface Leaving {
  fate?: Fate | null;
  strength?: number | null;
  reason?: string;
  taken_to?: string;
  /** What was said, where that is no code. */
  word?: string;
}

/** Words of the call line, and what they say; those that tablets of before sent among them. */
export const LEAVING_WORDS: Record<string, Leaving> = {
  released: { fate: "released" },
  alive: { fate: "released", word: "alive" },
  weak: { fate: "released", word: "weak" },
  r1: { fate: "released", strength: 1 },
  r2: { fate: "released", strength: 2 },
  r3: { fate: "released", strength: 3 },
  r4: { fate: "released", strength: 4 },
  dead: { fate: "dead" },
  kept: { fate: "kept" },
  escaped: { fate: "escaped" },
  taken: { fate: "taken" },
};

/** How a fish left, in the programme's words. */
export function leavingWords(deck: GoesBy, { fate, strength, taken_to, reason }: Leaving): string {
  if (!fate) return "aboard";
  return [
    wordFor(deck, "fates", fate),
    strength ? `${strength}: ${wordFor(deck, "strengths", String(strength))}` : "",
    taken_to ? wordFor(deck, "taken_to", taken_to) : "",
    reason ? `(${wordFor(deck, "reasons", reason)})` : "",
  ]
    .filter(Boolean)
    .join(" ");
}

/** How a fish is said to have left. */
export function leavingOf({ release, strength, reason, taken_to }: Capture): Leaving {
  return { fate: release || null, strength, reason, taken_to };
}

/** Ways to leave that one touch says, each with a key; the reason is said in the sheet. */
export function waysToLeave(deck: GoesBy): { key: string; leaving: Leaving }[] {
  const fates = Object.keys(FATES).filter((fate) => fate !== "taken") as Fate[];
  const strengths = [1, 2, 3, 4].map((strength) => ({ fate: "released" as const, strength }));
  const places = protocolRows(deck, "taken_to").map(({ code }) => ({ fate: "taken" as const, taken_to: String(code) }));
  return [
    { fate: fates[0]!, strength: null },
    ...strengths,
    ...fates.slice(1).map((fate) => ({ fate })),
    ...places,
  ].map((leaving) => ({
    key: keyOf(leaving),
    leaving,
  }));
}

/** One name for a way to leave, whatever the reason. */
export function keyOf({ fate, strength, taken_to }: Leaving): string {
  return fate ? [fate, strength ?? "", taken_to ?? ""].join("|") : "";
}

/** The fish once this is said of it, as core's deck/leaving.py has it (tests/shared/leaving.json). */
export function leftAs(capture: Capture, details: Leaving): Capture {
  if (details.fate === null) return { ...capture, release: "", strength: null, reason: "", taken_to: "" };
  const fate = details.fate ?? capture.release;
  const anew = fate === capture.release ? {} : { strength: null, reason: "", taken_to: "" };
  const { word: _, fate: __, ...more } = details;
  return { ...capture, ...anew, release: fate, ...more };
}
