import type { Schemas } from "@/api/client";

type Encounter = Schemas["Encounter"];

export interface RibbonPoint {
  x: number;
  /** Half of the ribbon's thickness there. */
  half: number;
  met: Encounter;
}

export interface Ribbon {
  points: RibbonPoint[];
  /** Outline of the ribbon, as a path. */
  path: string;
  ticks: { x: number; text: string }[];
}

const DAY_MS = 86_400_000;
const [THINNEST, THICKEST] = [4, 26];

/** A fish's life along time: where each meeting stands, as thick as the fish is long; between lengths it grows evenly. */
export function ribbonOf(encounters: Encounter[], width: number, middle: number, margin: number): Ribbon {
  const times = encounters.map(({ at }) => Date.parse(at));
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const span = last - first;
  const place = (time: number) => (span ? margin + ((time - first) / span) * (width - 2 * margin) : width / 2);
  const lengths = encounters.map(({ length_mm }) => length_mm);
  const longest = Math.max(1, ...lengths.map((each) => each ?? 0));
  const points = encounters.map((met, at) => {
    const mm = lengthAt(times, lengths, at);
    return {
      x: place(times[at]!),
      half: mm === null ? THINNEST : THINNEST + ((THICKEST - THINNEST) * mm) / longest,
      met,
    };
  });
  const top = points.map(({ x, half }) => `${x.toFixed(1)} ${(middle - half).toFixed(1)}`);
  const bottom = points.map(({ x, half }) => `${x.toFixed(1)} ${(middle + half).toFixed(1)}`).reverse();
  return {
    points,
    path: points.length > 1 ? `M${[...top, ...bottom].join("L")}Z` : "",
    ticks: ticksOf(first, last, place),
  };
}

/** The length at a meeting: measured, or between the measured ones before and after; of the nearest where there is one side alone. */
function lengthAt(times: number[], lengths: (number | null)[], at: number): number | null {
  if (lengths[at] !== null) return lengths[at]!;
  const before = lengths.findLastIndex((each, place) => place < at && each !== null);
  const after = lengths.findIndex((each, place) => place > at && each !== null);
  if (before < 0 && after < 0) return null;
  if (before < 0) return lengths[after]!;
  if (after < 0) return lengths[before]!;
  const share = (times[at]! - times[before]!) / Math.max(1, times[after]! - times[before]!);
  return lengths[before]! + share * (lengths[after]! - lengths[before]!);
}

function ticksOf(first: number, last: number, place: (time: number) => number): Ribbon["ticks"] {
  if (last - first < 2 * 365 * DAY_MS) return [];
  const years = [];
  for (let year = new Date(first).getUTCFullYear() + 1; Date.UTC(year, 0, 1) <= last; year++)
    years.push({ x: place(Date.UTC(year, 0, 1)), text: String(year) });
  return years;
}
