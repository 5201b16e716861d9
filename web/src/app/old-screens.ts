/** Entries of screens are understood for so long after their release (docs/running.md, section 7). */
export const UNDERSTOOD_DAYS = 730;
/** So long before that it is said. */
const SAID_DAYS = 90;
const DAY_MS = 86_400_000;

/** Days that entries of screens built on a day (ISO) are still understood for; null while nothing is to be said yet. */
export function daysLeft(built: string, nowMs: number): number | null {
  const left = Math.floor((Date.parse(built) + UNDERSTOOD_DAYS * DAY_MS - nowMs) / DAY_MS);
  return left <= SAID_DAYS ? left : null;
}
