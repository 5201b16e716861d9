import { type Flat, inView, type Point, type Size, type View } from "./flat";

/** Encounters as columns, in order of time. */
export interface Met {
  fish: number[];
  kind: number[];
  /** Seconds since 1970. */
  at: number[];
  lon: number[];
  lat: number[];
  error_m: number[];
}

/** Journeys as columns, in order of their end: the encounter at which each ended, and where it began. */
export interface Legs {
  end: number[];
  lon: number[];
  lat: number[];
}

/** Encounters on the flat picture, and from where to where fish went. */
export interface Plotted {
  x: Float64Array;
  y: Float64Array;
  /** Where each leg began. */
  legX: Float64Array;
  legY: Float64Array;
  legEnd: readonly number[];
}

/** Puts encounters and legs on the picture. */
export function plot(met: Met, legs: Legs, flat: Flat): Plotted {
  return {
    x: Float64Array.from(met.lon, flat.x),
    y: Float64Array.from(met.lat, flat.y),
    legX: Float64Array.from(legs.lon, flat.x),
    legY: Float64Array.from(legs.lat, flat.y),
    legEnd: legs.end,
  };
}

/** Of the times in order the first that is later: how many are not. */
export function notLater(at: ArrayLike<number>, time: number): number {
  let [low, high] = [0, at.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (at[middle]! <= time) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Encounters from a row on and before another, in order of time. */
export interface Shown {
  from: number;
  to: number;
}

/** Those of so many seconds up to a time; of all up to it where no span is given. */
export function shownAt(at: ArrayLike<number>, time: number, span_s: number | null): Shown {
  return { from: span_s === null ? 0 : notLater(at, time - span_s), to: notLater(at, time) };
}

export interface Scene {
  /** x1, y1, x2, y2 of each leg, of other fish and of the chosen one, px. */
  legs: number[];
  chosenLegs: number[];
  /** Rows of the encounters to draw: of those that would lie on each other only the newest; and how many of them each stands for. */
  marks: number[];
  counts: number[];
  chosenMarks: number[];
}

/** Encounters nearer together than this are one mark, px; where very many are shown the marks would lie on each other all the same. */
const [ONE_MARK, ONE_OF_MANY, MANY] = [3, 6, 5000];

/** What is to be drawn of encounters from the flat picture, in a view. */
export function sceneOf(
  met: Met,
  plotted: Plotted,
  shown: Shown,
  view: View,
  size: Size,
  chosen: number | null,
): Scene {
  const { x, y, legEnd, legX, legY } = plotted;
  const scene: Scene = { legs: [], chosenLegs: [], marks: [], counts: [], chosenMarks: [] };
  for (let leg = 0; leg < legEnd.length; leg++) {
    const at = legEnd[leg]!;
    if (at < shown.from) continue;
    if (at >= shown.to) break;
    const [x1, y1] = inView(view, legX[leg]!, legY[leg]!);
    const [x2, y2] = inView(view, x[at]!, y[at]!);
    if (Math.max(x1, x2) < 0 || Math.min(x1, x2) > size.width || Math.max(y1, y2) < 0 || Math.min(y1, y2) > size.height)
      continue;
    (met.fish[at] === chosen ? scene.chosenLegs : scene.legs).push(x1, y1, x2, y2);
  }
  const cellSize = shown.to - shown.from > MANY ? ONE_OF_MANY : ONE_MARK;
  const columns = Math.ceil(size.width / cellSize) + 1;
  // which mark has the place, from 1 on
  const taken = new Int32Array(columns * (Math.ceil(size.height / cellSize) + 1));
  for (let at = shown.to - 1; at >= shown.from; at--) {
    const [px, py] = inView(view, x[at]!, y[at]!);
    if (px < 0 || px > size.width || py < 0 || py > size.height) continue;
    if (met.fish[at] === chosen) scene.chosenMarks.push(at);
    const cell = Math.floor(py / cellSize) * columns + Math.floor(px / cellSize);
    if (taken[cell]) {
      scene.counts[taken[cell]! - 1]!++;
      continue;
    }
    scene.marks.push(at);
    scene.counts.push(1);
    taken[cell] = scene.marks.length;
  }
  return scene;
}

/**
 * A fish of those met within some pixels of a touch, for each touch of the same place another: first those that went farthest about, by
 * their legs, of them the last met; null where there is none.
 */
export function fishAt(
  met: Met,
  plotted: Plotted,
  shown: Shown,
  view: View,
  { x, y }: Point,
  chosen: number | null,
  within = 14,
): number | null {
  const there: number[] = [];
  for (let at = shown.to - 1; at >= shown.from; at--)
    if (Math.hypot(view.x + view.k * plotted.x[at]! - x, view.y + view.k * plotted.y[at]! - y) < within)
      there.push(met.fish[at]!);
  const legs = new Map<number, number>();
  for (const end of plotted.legEnd) legs.set(met.fish[end]!, (legs.get(met.fish[end]!) ?? 0) + 1);
  const fish = [...new Set(there)].sort((a, b) => (legs.get(b) ?? 0) - (legs.get(a) ?? 0));
  return fish[(fish.indexOf(chosen ?? -1) + 1) % fish.length] ?? null;
}
