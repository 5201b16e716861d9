import type { Schemas } from "@/api/client";
import type { SpeciesValues } from "@/features/programme";

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

/** A list with one of its rows changed. */
export function replaced<T>(list: readonly T[], place: number, next: T): T[] {
  return list.map((each, other) => (other === place ? next : each));
}
