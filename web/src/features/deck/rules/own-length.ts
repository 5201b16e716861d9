import type { Schemas } from "@/api/schemas";

type Species = Pick<Schemas["DeckSpecies"], "length_type"> & Partial<Pick<Schemas["DeckSpecies"], "conversions">>;

/** A length in its species' own type, mm; `converted` where it was measured in another. */
export interface OwnLength {
  mm: number;
  converted: boolean;
}

/** The length that categories, legal sizes and standard weights are held against; null where none is known. */
export function ownLength(mm: number, type: string, species: Species): OwnLength | null {
  if (!type || type === species.length_type) return { mm, converted: false };
  const found = species.conversions?.find(({ from_type }) => from_type === type);
  return found ? { mm: found.intercept_mm + found.slope * mm, converted: true } : null;
}
