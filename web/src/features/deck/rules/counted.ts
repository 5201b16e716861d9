import type { Schemas } from "@/api/schemas";
import tables from "./rule-tables.gen.json";

/** What of a fish counts: against a permit, towards a target, within a quota (core's deck/counted.py; tests/shared/counted.json). */
export interface CountedFish {
  species: string;
  length_mm: number | null;
  /** Its length was measured, not judged by eye. */
  measured: boolean;
  mass_g: number | null;
  marked: boolean;
  /** How it left; empty while it is aboard. */
  fate: string;
  zone: string;
}

export const KILLED = tables.counted.killed;
const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/** What of a capture counts, caught in a zone. */
export function countedFish(fish: Schemas["Capture"], zone = ""): CountedFish {
  const { species, length_mm, length_basis, mass_g, placed, release } = fish;
  const marked = (placed?.length ?? 0) > 0;
  return { species, length_mm, measured: length_basis === "measured", mass_g, marked, fate: release, zone };
}

export function forPermit(what: Schemas["Allowance"]["what"], species: string, fish: CountedFish): boolean {
  if (species && fish.species !== species) return false;
  if (what === "captured") return true;
  if (what === "handled") return fish.length_mm !== null || fish.mass_g !== null || fish.marked;
  if (what === "tagged") return fish.marked;
  return KILLED.includes(fish.fate);
}

/** Of a target of so many "measured" or "marked", from a length, in a zone (empty: anywhere). */
export function towardsTarget(
  { what, species, from_mm, zone }: Omit<Schemas["Target"], "id" | "wanted">,
  fish: CountedFish,
): boolean {
  if (fish.species !== species || (zone && !same(fish.zone, zone))) return false;
  if (from_mm !== null && (fish.length_mm === null || fish.length_mm < from_mm)) return false;
  return what === "measured" ? fish.measured : fish.marked;
}

/** One of a quota's marked fish: of its species and zone (empty: any) and length, `to_mm` left out; unmeasured where it asks for none. */
export function withinQuota(
  { species, zone, from_mm, to_mm }: Pick<Schemas["Quota"], "species" | "zone" | "from_mm" | "to_mm">,
  fish: CountedFish,
): boolean {
  if (!fish.marked || (species && fish.species !== species)) return false;
  if (zone && !same(fish.zone, zone)) return false;
  if (fish.length_mm === null) return from_mm === 0 && to_mm === null;
  return fish.length_mm >= from_mm && (to_mm === null || fish.length_mm < to_mm);
}
