import type { Deck } from "../scope";

/** A deck that goes by a protocol. */
export type GoesBy = Pick<Deck, "protocol">;
export type Row = Record<string, string | number | null>;

/** Fates in words, where a tablet holds a deck of before there were protocols. */
export const FATES = {
  released: "released",
  dead: "dead",
  kept: "kept",
  escaped: "escaped",
  taken: "taken to",
} as const;

/** Rows of a section of the protocol that an outing goes by. */
export function protocolRows({ protocol }: GoesBy, section: string): Row[] {
  return (protocol.values[section] ?? []) as Row[];
}

/** The programme's word for a code; the code itself where the protocol has none of it. */
export function wordFor(deck: GoesBy, section: string, code: string): string {
  const row = protocolRows(deck, section).find((each) => each.code === code);
  if (row) return String(row.word);
  return section === "fates" && code in FATES ? FATES[code as keyof typeof FATES] : code;
}

/** The row that holds for a fish: of its own species first, then the longest length it has reached (tests/shared/bands.json). */
export function bandFor<Band extends Row>(rows: readonly Band[], species: string, mm: number | null): Band | null {
  const fit = rows.filter((row) => [species, ""].includes(String(row.species)) && Number(row.from_mm) <= (mm ?? 0));
  const rank = (row: Band) => (row.species === species ? 1e9 : 0) + Number(row.from_mm);
  return fit.reduce<Band | null>((best, row) => (best === null || rank(row) > rank(best) ? row : best), null);
}
