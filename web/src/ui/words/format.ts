/** Figures as people read them. */

import { currentWriting } from "./day-language";

const MM_PER_INCH = 25.4;
const G_PER_OUNCE = 453.59237 / 16;

export function formatMm(mm: number): string {
  return `${Number.isInteger(mm) ? mm : mm.toFixed(1)} mm`;
}

export function formatInches(mm: number): string {
  return `${(mm / MM_PER_INCH).toFixed(2)} in`;
}

export function formatGrams(g: number): string {
  return g >= 10_000 ? `${(g / 1000).toFixed(2)} kg` : `${Number(g.toFixed(g < 10 ? 2 : 0)).toLocaleString("en")} g`;
}

export function formatPounds(g: number): string {
  const ounces = Math.round(g / G_PER_OUNCE);
  return ounces >= 16 ? `${Math.floor(ounces / 16)} lb ${ounces % 16} oz` : `${(g / G_PER_OUNCE).toFixed(1)} oz`;
}

/** 96 -> 1:36 */
export function formatSeconds(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

export function formatDay(iso: string): string {
  return currentWriting().day.format(new Date(`${iso.slice(0, 10)}T12:00:00Z`));
}

const clocks = new Map<string, Intl.DateTimeFormat>();

export function formatTime(iso: string, timeZone: string): string {
  let clock = clocks.get(timeZone);
  if (!clock) {
    clock = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone });
    clocks.set(timeZone, clock);
  }
  return clock.format(new Date(iso));
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${n.toLocaleString("en")} ${n === 1 ? one : many}`;
}

/** A value with its interval: 68 (61-74) */
export function formatInterval(
  value: number | null,
  lower: number | null,
  upper: number | null,
  digits: number,
): string {
  if (value === null) return "not defined";
  const range = lower === null || upper === null ? "" : ` (${lower.toFixed(digits)} to ${upper.toFixed(digits)})`;
  return value.toFixed(digits) + range;
}

/** A difference with its sign and interval, "+12 (3 to 21)"; an end that nothing refutes is told as such. */
export function formatDifference(
  value: number | null,
  lower: number | null,
  upper: number | null,
  digits: number,
): string {
  if (value === null) return "not defined";
  const told = `${value > 0 ? "+" : ""}${value.toFixed(digits)}`;
  if (lower === null && upper === null) return `${told} (no limits)`;
  return `${told} (${lower?.toFixed(digits) ?? "no limit"} to ${upper?.toFixed(digits) ?? "no limit"})`;
}

/** 12.5 -> 12.50 EUR, 50 -> 50 EUR */
export function money(amount: number, currency: string): string {
  const digits = Number.isInteger(amount) ? 0 : 2;
  return `${amount.toLocaleString("en", { minimumFractionDigits: digits, maximumFractionDigits: 2 })} ${currency}`.trim();
}

/** 12550 -> 12,550 */
export function whole(n: number): string {
  return Math.round(n).toLocaleString("en");
}

const MONTHS = "January February March April May June July August September October November December".split(" ");

/** What a target asks for: "walleye marked, from 250 mm, Lower river, in April". */
export function targetWords(
  name: string,
  { what, from_mm, place, month }: { what: string; from_mm?: number | null; place?: string; month?: number | null },
): string {
  const parts = [`${name} ${what}`, from_mm != null && `from ${from_mm} mm`, place, month && `in ${MONTHS[month - 1]}`];
  return parts.filter(Boolean).join(", ");
}

/** The months by number, to choose from. */
export const MONTH_CHOICES = MONTHS.map((name, at) => ({ value: at + 1, label: name }));
