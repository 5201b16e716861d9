const MONTHS = "jan feb mar apr may jun jul aug sep oct nov dec".split(" ");

/**
 * A day from what is typed, as YYYY-MM-DD; null where it is none, or could be two.
 *
 * Days are written "25 Nov 2026" here, so day, month, year is the order; 2026-11-25 is read as well. With strokes between
 * figures either order is in use, so these are read only where one of the two is no month.
 */
export function readDay(text: string): string | null {
  const typed = text.trim().toLowerCase();
  const iso = typed.match(/^(\d{4})-(\d{1,2})-(\d{1,2})$/);
  if (iso) return whole(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const worded = typed.match(/^(\d{1,2})\.?\s*([a-z]{3,9})\.?,?\s*(\d{4})$/);
  if (worded) {
    const month = MONTHS.findIndex((name) => worded[2]!.startsWith(name));
    return whole(Number(worded[3]), month + 1, Number(worded[1]));
  }
  const figures = typed.match(/^(\d{1,2})([./\s-])(\d{1,2})\2(\d{4})$/);
  if (!figures) return null;
  const [first, second, year] = [Number(figures[1]), Number(figures[3]), Number(figures[4])];
  if (figures[2] === "/" && first <= 12 && second <= 12 && first !== second) return null;
  return second > 12 ? whole(year, first, second) : whole(year, second, first);
}

/** So many days later. */
export function addDays(day: string, days: number): string {
  const date = new Date(`${day}T12:00:00Z`);
  date.setUTCDate(date.getUTCDate() + days);
  return date.toISOString().slice(0, 10);
}

function whole(year: number, month: number, day: number): string | null {
  const date = new Date(Date.UTC(year, month - 1, day, 12));
  const same = date.getUTCFullYear() === year && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
  return same && year >= 1900 && year < 2200 ? date.toISOString().slice(0, 10) : null;
}
