import type { Palette } from "@/ui/palette";
import { type Flat, inView, type Size, type View } from "./flat";
import type { Met, Plotted, Scene } from "./scene";

/** A water's line on the flat picture. */
export interface Ground {
  name: string;
  lake: boolean;
  line: [number, number][];
}

export interface Picture {
  met: Met;
  plotted: Plotted;
  scene: Scene;
  ground: readonly Ground[];
  flat: Flat;
  view: View;
  size: Size;
  inks: Palette;
}

/** Half a mark of one encounter, px. */
const R = 4.5;
/** Half a mark of so many: by their logarithm, so that a place of very many hides no other. */
export const radiusOf = (encounters: number) => R * (1 + 0.5 * Math.log10(encounters));
/** Errors are drawn where they are larger than a mark and not too many. */
const [LEAST_RING, MOST_RINGS] = [8, 400];
/** Of so many legs each is drawn lighter. */
const MANY_LEGS = 400;

/** Outline of a mark about 0, 0 by how the encounter is known: circle, square, diamond, triangle. */
const SHAPES: readonly (readonly (readonly [number, number])[])[] = [
  [],
  [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ],
  [
    [0, -1.35],
    [1.35, 0],
    [0, 1.35],
    [-1.35, 0],
  ],
  [
    [0, -1.3],
    [1.2, 0.9],
    [-1.2, 0.9],
  ],
];

/** What fills a mark: what finders said stands out from what crews saw. */
export const inkOf = (kind: number, inks: Pick<Palette, "data" | "ink" | "signal">) =>
  kind === 2 ? inks.signal : kind === 1 ? inks.ink : inks.data;

/** The outline of a mark at a place. */
export function outlineOf(kind: number, x: number, y: number, r = R): [number, number][] | null {
  const shape = SHAPES[kind]!;
  return shape.length ? shape.map(([dx, dy]) => [x + dx * r, y + dy * r]) : null;
}

/** Rings of what may be off, px: of chosen fish and where few enough are shown. */
export function ringsOf({ met, plotted, scene, flat, view }: Picture): { x: number; y: number; r: number }[] {
  const rows = scene.marks.length <= MOST_RINGS ? scene.marks : scene.chosenMarks.slice(0, MOST_RINGS);
  return rows.flatMap((row) => {
    const r = (met.error_m[row]! / flat.metresPerPixel) * view.k;
    if (r < LEAST_RING) return [];
    const [x, y] = inView(view, plotted.x[row]!, plotted.y[row]!);
    return [{ x, y, r }];
  });
}

/** Names of waters, each at the middle of its line where that is in sight. */
export function namesOf({ ground, view, size }: Picture): { name: string; x: number; y: number }[] {
  return ground.flatMap(({ name, line }) => {
    const inSight = line
      .map(([x, y]) => inView(view, x, y))
      .filter(([x, y]) => x > 0 && y > 0 && x < size.width && y < size.height);
    const middle = inSight[inSight.length >> 1];
    return middle ? [{ name, x: middle[0], y: middle[1] }] : [];
  });
}

/** The whole picture on a canvas whose units are the page's pixels. */
export function draw(pen: CanvasRenderingContext2D, picture: Picture): void {
  const { met, plotted, scene, ground, view, size, inks } = picture;
  pen.clearRect(0, 0, size.width, size.height);
  pen.lineJoin = "round";
  for (const { lake, line } of ground) {
    pen.beginPath();
    for (const [x, y] of line) pen.lineTo(...inView(view, x, y));
    if (lake) {
      pen.fillStyle = inks.wash;
      pen.fill();
    }
    pen.strokeStyle = inks.line;
    pen.lineWidth = 2;
    pen.stroke();
  }
  stroke(
    pen,
    scene.legs,
    inks.muted,
    1,
    scene.chosenLegs.length ? 0.25 : scene.legs.length / 4 > MANY_LEGS ? 0.3 : 0.7,
  );
  pen.strokeStyle = inks.muted;
  pen.lineWidth = 1;
  for (const { x, y, r } of ringsOf(picture)) {
    pen.beginPath();
    pen.arc(x, y, r, 0, 2 * Math.PI);
    pen.stroke();
  }
  const dim = scene.chosenMarks.length > 0;
  // of one kind after another: to change the colour costs more than a mark
  for (let kind = 0; kind < SHAPES.length; kind++) {
    pen.globalAlpha = dim ? 0.3 : 0.85;
    pen.fillStyle = inkOf(kind, inks);
    pen.beginPath();
    scene.marks.forEach((row, n) => {
      if (met.kind[row] === kind)
        outline(pen, kind, ...inView(view, plotted.x[row]!, plotted.y[row]!), radiusOf(scene.counts[n]!));
    });
    pen.fill();
  }
  pen.globalAlpha = 1;
  stroke(pen, scene.chosenLegs, inks.signal, 2.5, 1);
  for (const row of scene.chosenMarks) {
    pen.beginPath();
    outline(pen, met.kind[row]!, ...inView(view, plotted.x[row]!, plotted.y[row]!), R * 1.5);
    pen.fillStyle = inkOf(met.kind[row]!, inks);
    pen.fill();
    pen.strokeStyle = inks.ink;
    pen.lineWidth = 1.5;
    pen.stroke();
  }
  pen.font = `600 14px ${inks.font}`;
  pen.textAlign = "center";
  pen.lineWidth = 4;
  for (const { name, x, y } of namesOf(picture)) {
    pen.strokeStyle = inks.raised;
    pen.strokeText(name, x, y - 8);
    pen.fillStyle = inks.ink;
    pen.fillText(name, x, y - 8);
  }
}

function outline(pen: CanvasRenderingContext2D, kind: number, x: number, y: number, r = R) {
  const corners = outlineOf(kind, x, y, r);
  if (!corners) {
    pen.moveTo(x + r, y);
    pen.arc(x, y, r, 0, 2 * Math.PI);
    return;
  }
  pen.moveTo(...corners[0]!);
  for (const corner of corners.slice(1)) pen.lineTo(...corner);
  pen.lineTo(...corners[0]!); // to close a path in a path of thousands costs ten times as much
}

function stroke(pen: CanvasRenderingContext2D, legs: number[], ink: string, width: number, alpha: number) {
  pen.globalAlpha = alpha;
  pen.strokeStyle = ink;
  pen.lineWidth = width;
  pen.beginPath();
  for (let leg = 0; leg < legs.length; leg += 4) {
    pen.moveTo(legs[leg]!, legs[leg + 1]!);
    pen.lineTo(legs[leg + 2]!, legs[leg + 3]!);
  }
  pen.stroke();
  pen.globalAlpha = 1;
}
