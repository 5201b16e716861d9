import { addDays as daysLater, formatISO, isMatch, parseISO } from "date-fns";
import { currentWriting, plainLetters } from "./day-language";

const ENGLISH = "january february march april may june july august september october november december"
  .split(" ")
  .map((name) => [name, name.slice(0, 3)]);

/**
 * A day from what is typed, as YYYY-MM-DD; null where it is none, or could be two.
 *
 * A month's name is read in the person's language or in English, whatever the order; 2026-11-25 is read as well, and figures as
 * day, month, year. With strokes between figures either order is in use, so these are read only where one of the two is no month.
 */
export function readDay(text: string): string | null {
  const typed = plainLetters(text.trim());
  const iso = typed.match(/^(\d{4})-(\d{1,2})-(\d{1,2})$/);
  if (iso) return whole(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const months = (typed.match(/\p{L}{3,}/gu) ?? []).map(monthOf).filter(Boolean);
  const numbers = typed.match(/\d+/g) ?? [];
  if (months.length === 1 && numbers.length === 2) {
    const [day, year] = numbers[0]!.length === 4 ? [numbers[1]!, numbers[0]!] : [numbers[0]!, numbers[1]!];
    return day.length <= 2 && year.length === 4 ? whole(Number(year), months[0]!, Number(day)) : null;
  }
  const figures = typed.match(/^(\d{1,2})(\.\s*|[/\s-])(\d{1,2})\2(\d{4})$/);
  if (!figures) return null;
  const [first, second, year] = [Number(figures[1]), Number(figures[3]), Number(figures[4])];
  if (figures[2] === "/" && first <= 12 && second <= 12 && first !== second) return null;
  return second > 12 ? whole(year, first, second) : whole(year, second, first);
}

/** So many days later. */
export function addDays(day: string, days: number): string {
  return dayOf(daysLater(parseISO(day), days));
}

/** The day here and now. */
export const today = () => dayOf(new Date());

const dayOf = (moment: Date) => formatISO(moment, { representation: "date" });

/** 1 to 12, by the beginning of a name; 0 where it is none, or could be two. */
function monthOf(name: string): number {
  for (const months of [currentWriting().months, ENGLISH]) {
    const exact = months.findIndex((names) => names.includes(name));
    if (exact >= 0) return exact + 1;
    const fit = months.flatMap((names, month) => (names.some((each) => each.startsWith(name)) ? [month + 1] : []));
    if (fit.length === 1) return fit[0]!;
  }
  return 0;
}

function whole(year: number, month: number, day: number): string | null {
  const iso = [year, month, day].map((part) => String(part).padStart(2, "0")).join("-");
  return isMatch(iso, "yyyy-MM-dd") && year >= 1900 && year < 2200 ? iso : null;
}
