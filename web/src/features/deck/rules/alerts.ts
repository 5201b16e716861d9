import type { Row } from "./protocol";

/** Core's `deck.alerts` again, for work with no signal; held to it by tests/shared/alerts.json. */
export function alertsFor(rows: readonly Row[], species: string, mm: number | null): string[] {
  const fits = (row: Row) => {
    if (row.species !== species && row.species !== "") return false;
    const low = Number(row.from_mm ?? 0);
    const high = row.to_mm == null ? null : Number(row.to_mm);
    if (mm === null) return low === 0 && high === null;
    return low <= mm && (high === null || mm < high);
  };
  return rows.filter(fits).map(({ word }) => String(word));
}

/** Whether a day ("MM-DD") lies in a row's days; those that run over the new year end in the next. */
function isInDays({ first_day, last_day }: Row, day: string): boolean {
  if (!first_day || !last_day) return false;
  const [first, last] = [String(first_day), String(last_day)];
  return first <= last ? first <= day && day <= last : day >= first || day <= last;
}

/** What stands against retaining another fish. */
export function limitsFor(
  rows: readonly Row[],
  species: string,
  day: string,
  retained: number,
): ("closed" | "boat_full")[] {
  const here = rows.filter((row) => row.species === species || row.species === "");
  const limits = here.filter(({ boat_limit }) => boat_limit != null).map(({ boat_limit }) => Number(boat_limit));
  return [
    ...(here.some((row) => isInDays(row, day)) ? (["closed"] as const) : []),
    ...(limits.length && retained >= Math.min(...limits) ? (["boat_full"] as const) : []),
  ];
}

/** Seasons of a species in which pressure shows its sex, where the day is in none of them; empty: nothing to ask about. */
export function pressureSeasons(rows: readonly Row[], species: string, day: string): string[] {
  const itsOwn = rows.filter((row) => row.species === species);
  const own = itsOwn.length ? itsOwn : rows.filter((row) => row.species === "");
  return own.some((row) => isInDays(row, day))
    ? []
    : own.map(({ first_day, last_day }) => `${first_day} to ${last_day}`);
}
