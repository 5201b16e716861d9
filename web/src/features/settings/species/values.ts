import type { Schemas } from "@/api/client";
import type { SpeciesValues } from "../queries";

export type Values = SpeciesValues;

/** What each part of the form is given: the values, how to change some of them, and what was refused by its place. */
export interface PartProps {
  values: Values;
  set: (part: Partial<Values>) => void;
  wrong: (field: string) => string | undefined;
  /** Where the refusal stands; the part that it is in is open. */
  field: string | null;
}

export const TYPES: Record<Schemas["LengthTypeEnum"], string> = {
  TL: "total length, tail pinched",
  TLn: "total length, natural",
  FL: "fork length",
  SL: "standard length",
  LJFL: "lower jaw to fork",
  EFL: "eye to fork",
  DW: "disc width",
};

/** A new one: nothing is known of it yet, except that it needs these. */
export const NOTHING: Values = {
  common_name: "",
  scientific_name: "",
  words: [],
  length_type: "TL",
  usual_from_mm: 50,
  usual_to_mm: 500,
  least_mm: 10,
  most_mm: 1000,
  line: { log10_a: -5, b: 3, sd: 0.08, source: "a general line, until fish are weighed" },
  standard_weight: null,
  categories: null,
  conversions: [],
  legal: null,
  smallest_to_tag_mm: null,
  lookalikes: [],
  special_interest: false,
  places_hidden: false,
  swim_bladder: "closed",
};

/** A list with one of its rows changed. */
export function replaced<T>(list: readonly T[], place: number, next: T): T[] {
  return list.map((each, other) => (other === place ? next : each));
}
