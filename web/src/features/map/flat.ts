/** Places on a flat picture. */

export interface Size {
  width: number;
  height: number;
}

/** Where the picture is drawn: a place is at x + k times where the whole has it, px. */
export interface View {
  k: number;
  x: number;
  y: number;
}

/** Where a view has a place of the flat picture. */
export const inView = ({ k, x, y }: View, flatX: number, flatY: number): [number, number] => [
  x + k * flatX,
  y + k * flatY,
];

export const WHOLE: View = { k: 1, x: 0, y: 0 };
export const [FARTHEST, NEAREST] = [0.25, 2000];
/** Kept free of places: at the top lie the buttons, at the bottom the scale bar. */
const [SIDE, TOP, BOTTOM] = [28, 64, 40];
const METRES_PER_DEGREE = 111_195;

/** A longitude within half a turn of another: waters on both sides of the antimeridian stay together. */
export const beside = (lon: number, about: number) => lon - 360 * Math.round((lon - about) / 360);

export interface Flat {
  x: (lon: number) => number;
  y: (lat: number) => number;
  metresPerPixel: number;
}

/** Longitude and latitude on a picture that shows all of them, true to scale about their middle. */
export function flatten(lons: ArrayLike<number>, lats: ArrayLike<number>, { width, height }: Size): Flat {
  const about = lons[0] ?? 0;
  let [west, east, south, north] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let at = 0; at < lons.length; at++) {
    const [lon, lat] = [beside(lons[at]!, about), lats[at]!];
    west = Math.min(west, lon);
    east = Math.max(east, lon);
    south = Math.min(south, lat);
    north = Math.max(north, lat);
  }
  const squeeze = Math.max(Math.cos((((south + north) / 2) * Math.PI) / 180), 0.01);
  // a single place is shown with some 100 m about it
  const least = 200 / METRES_PER_DEGREE;
  const scale = Math.min(
    Math.max(width - 2 * SIDE, 1) / Math.max((east - west) * squeeze, least),
    Math.max(height - TOP - BOTTOM, 1) / Math.max(north - south, least),
  );
  const [middle, centre] = [(west + east) / 2, (south + north) / 2];
  return {
    x: (lon) => width / 2 + (beside(lon, middle) - middle) * squeeze * scale,
    y: (lat) => (TOP + height - BOTTOM) / 2 + (centre - lat) * scale,
    metresPerPixel: METRES_PER_DEGREE / scale,
  };
}

/** Nearer or farther, with what lies at a point of the picture left where it is. */
export function zoomed(view: View, factor: number, x: number, y: number): View {
  const k = Math.min(NEAREST, Math.max(FARTHEST, view.k * factor));
  return { k, x: x - ((x - view.x) * k) / view.k, y: y - ((y - view.y) * k) / view.k };
}

/** From two fingers to where they are now: what lay under them lies under them. */
export function pinched(view: View, before: readonly [Point, Point], now: readonly [Point, Point]): View {
  const apart = ([a, b]: readonly [Point, Point]) => Math.hypot(a.x - b.x, a.y - b.y) || 1;
  const middle = ([a, b]: readonly [Point, Point]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const [from, to] = [middle(before), middle(now)];
  const { k, x, y } = zoomed(view, apart(now) / apart(before), from.x, from.y);
  return { k, x: x + to.x - from.x, y: y + to.y - from.y };
}

export interface Point {
  x: number;
  y: number;
}
