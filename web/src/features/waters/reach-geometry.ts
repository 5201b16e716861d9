import type { Reach } from "./queries";

export interface Box {
  width: number;
  height: number;
}

/** Longitude and latitude on a flat picture and back: true to scale about the middle of the water. */
export function projection(line: readonly (readonly number[])[], { width, height }: Box, margin = 24) {
  const lons = line.map(([lon]) => lon!);
  const lats = line.map(([, lat]) => lat!);
  const west = Math.min(...lons);
  const east = Math.max(...lons);
  const south = Math.min(...lats);
  const north = Math.max(...lats);
  const squeeze = Math.cos((((south + north) / 2) * Math.PI) / 180);
  const scale = Math.min(
    (width - 2 * margin) / Math.max((east - west) * squeeze, 1e-9),
    (height - 2 * margin) / Math.max(north - south, 1e-9),
  );
  const left = (width - (east - west) * squeeze * scale) / 2;
  const top = (height - (north - south) * scale) / 2;
  const place = (lon: number, lat: number): [number, number] => [
    left + (lon - west) * squeeze * scale,
    top + (north - lat) * scale,
  ];
  const unplace = (x: number, y: number): [number, number] => [
    west + (x - left) / (squeeze * scale),
    north - (y - top) / scale,
  ];
  return { place, unplace, metresPerPixel: 111_195 / scale };
}

/** Corners of a box about a point, some kilometres each way: what a map shows before there is a line. */
export function around([lon, lat]: readonly [number, number], km = 3): [number, number][] {
  const degrees = km / 111.195;
  const wide = degrees / Math.max(Math.cos((lat * Math.PI) / 180), 0.01);
  return [
    [lon - wide, lat - degrees],
    [lon + wide, lat + degrees],
  ];
}

/** The part of a line between two distances along it. */
export function stretch({ line, along_m }: Pick<Reach, "line" | "along_m">, start: number, end: number): number[][] {
  const inside = line.filter((_, at) => along_m[at]! > start && along_m[at]! < end);
  return [pointAt({ line, along_m }, start), ...inside, pointAt({ line, along_m }, end)];
}

export function pointAt({ line, along_m }: Pick<Reach, "line" | "along_m">, metres: number): number[] {
  const after = along_m.findIndex((each) => each >= metres);
  if (after <= 0) return after === 0 ? [...line[0]!] : [...line.at(-1)!];
  const [from, to] = [along_m[after - 1]!, along_m[after]!];
  const share = to > from ? (metres - from) / (to - from) : 0;
  return [0, 1].map((axis) => line[after - 1]![axis]! + share * (line[after]![axis]! - line[after - 1]![axis]!));
}

/** A round length for a scale bar of at most so many pixels, m. */
export function roundLength(metres: number): number {
  const power = 10 ** Math.floor(Math.log10(metres));
  return [5, 2, 1].map((step) => step * power).find((each) => each <= metres) ?? power;
}

/** The shape of a line as an SVG path. */
export function svgPath(points: readonly (readonly number[])[], place: (lon: number, lat: number) => [number, number]) {
  return points
    .map(
      ([lon, lat], at) =>
        `${at ? "L" : "M"}${place(lon!, lat!)
          .map((each) => each.toFixed(1))
          .join(" ")}`,
    )
    .join("");
}
