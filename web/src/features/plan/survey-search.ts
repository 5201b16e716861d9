export const PARTS = ["design", "sites", "settings", "enough", "rehearsal", "kit", "go"] as const;
export type Part = (typeof PARTS)[number];

/** Which part of a survey the address asks for. */
export function readSurveySearch(search: Record<string, unknown>): { part?: Part } {
  return PARTS.includes(search.part as Part) ? { part: search.part as Part } : {};
}
