import { roundLength } from "@/features/waters";
import { inkOf, namesOf, outlineOf, type Picture, radiusOf, ringsOf } from "./draw";
import { inView } from "./flat";

const text = (words: string) => words.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
const px = (value: number) => value.toFixed(1);
const way = (points: readonly (readonly [number, number])[]) =>
  points.map(([x, y], n) => `${n ? "L" : "M"}${px(x)} ${px(y)}`).join("");

/** The picture as SVG, as it stands on the screen. */
export function toSvg(picture: Picture): string {
  const { met, plotted, scene, ground, view, size, inks } = picture;
  const parts = ground.map(
    ({ lake, line }) =>
      `<path d="${way(line.map(([x, y]) => inView(view, x, y)))}" fill="${lake ? inks.wash : "none"}" stroke="${inks.line}" stroke-width="2"/>`,
  );
  for (const [legs, ink, width] of [
    [scene.legs, inks.muted, 1],
    [scene.chosenLegs, inks.signal, 2.5],
  ] as const) {
    let lines = "";
    for (let leg = 0; leg < legs.length; leg += 4)
      lines += `M${px(legs[leg]!)} ${px(legs[leg + 1]!)}L${px(legs[leg + 2]!)} ${px(legs[leg + 3]!)}`;
    if (lines) parts.push(`<path d="${lines}" fill="none" stroke="${ink}" stroke-width="${width}"/>`);
  }
  for (const { x, y, r } of ringsOf(picture))
    parts.push(`<circle cx="${px(x)}" cy="${px(y)}" r="${px(r)}" fill="none" stroke="${inks.muted}"/>`);
  for (const [n, row] of scene.marks.entries()) {
    const r = radiusOf(scene.counts[n]!);
    const [kind, [x, y]] = [met.kind[row]!, inView(view, plotted.x[row]!, plotted.y[row]!)];
    const corners = outlineOf(kind, x, y, r);
    const shape = corners ? `path d="${way(corners)}Z"` : `circle cx="${px(x)}" cy="${px(y)}" r="${px(r)}"`;
    parts.push(`<${shape} fill="${inkOf(kind, inks)}"/>`);
  }
  for (const { name, x, y } of namesOf(picture))
    parts.push(
      `<text x="${px(x)}" y="${px(y - 8)}" text-anchor="middle" font-size="14" font-weight="600" fill="${inks.ink}" stroke="${inks.raised}" stroke-width="4" paint-order="stroke">${text(name)}</text>`,
    );
  const bar = roundLength((picture.flat.metresPerPixel / view.k) * 160);
  const long = (bar * view.k) / picture.flat.metresPerPixel;
  const [right, low] = [size.width - 16, size.height - 28];
  parts.push(
    `<path d="M${px(right - long)} ${low - 6}v6h${px(long)}v-6" fill="none" stroke="${inks.ink}" stroke-width="2"/>`,
    `<text x="${px(right - long / 2)}" y="${low + 16}" text-anchor="middle" font-size="13" fill="${inks.ink}">${bar >= 1000 ? `${bar / 1000} km` : `${bar} m`}</text>`,
  );
  const family = text(inks.font).replaceAll('"', "'");
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}" viewBox="0 0 ${size.width} ${size.height}" font-family="${family}">${parts.join("")}</svg>`;
}
