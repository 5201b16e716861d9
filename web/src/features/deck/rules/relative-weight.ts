import type { Schemas } from "@/api/schemas";

type MassTable = Schemas["MassTable"];

/** Relative weight, %, by core's table of standard weights; null where it is not defined (tests in relative-weight.test.ts). */
export function relativeWeight(table: MassTable, mm: number, grams: number): number | null {
  const standard = at(table.length_mm, table.standard_g, mm);
  return standard === null ? null : (100 * grams) / standard;
}

/** What a fish of this length weighs by the line that masses are judged by, g; null off the table, or where it has no length. */
export function expectedMass(table: MassTable | undefined, mm: number | null): number | null {
  return table && mm !== null ? at(table.length_mm, table.expected_g, mm) : null;
}

/** A column of the table at a length. Masses are powers of length: straight between two logarithms. */
function at(lengths: readonly number[], column: readonly (number | null)[] | undefined, mm: number): number | null {
  const place = lengths.findIndex((each) => each >= mm);
  if (place >= 0 && lengths[place] === mm && column?.[place] != null) return column[place];
  const [above, below] = [column?.[place], column?.[Math.max(place - 1, 0)]];
  if (place < 0 || above == null || below == null) return null;
  const [from, to] = [lengths[Math.max(place - 1, 0)]!, lengths[place]!];
  const share = to === from ? 0 : Math.log(mm / from) / Math.log(to / from);
  return below * (above / below) ** share;
}
