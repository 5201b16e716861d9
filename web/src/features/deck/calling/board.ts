import type { Schemas } from "@/api/client";

type Species = Schemas["DeckSpecies"];

export interface Brick {
  id: string;
  bin: number;
  level: number;
  estimated: boolean;
}

/** Where lengths lie on the board. */
export interface Scale {
  maxMm: number;
  binMm: number;
  x: (mm: number) => number;
}

/** The board reaches past the usual lengths of the species and past every fish on it. */
export function boardScale(species: Species, lengths: number[], width: number): Scale {
  const longest = Math.max(species.usual_mm[1]!, species.categories.at(-1)?.from_mm ?? 0, ...lengths);
  const maxMm = Math.ceil((longest + 20) / 50) * 50;
  return { maxMm, binMm: maxMm > 450 ? 10 : 5, x: (mm) => (mm / maxMm) * width };
}

/** Fish of one length class stand on one another, in the order in which they came. */
export function pile(
  captures: Pick<Schemas["Capture"], "id" | "length_mm" | "length_basis">[],
  binMm: number,
): Brick[] {
  const heights = new Map<number, number>();
  return captures.flatMap(({ id, length_mm, length_basis }) => {
    if (length_mm === null) return [];
    const bin = Math.floor(length_mm / binMm + 1e-9);
    const level = heights.get(bin) ?? 0;
    heights.set(bin, level + 1);
    return [{ id, bin, level, estimated: length_basis === "estimated" }];
  });
}

export interface Band {
  name: string;
  from: number;
  to: number;
}

/** Size categories as bands from one limit to the next. */
export function bands({ categories }: Species, maxMm: number): Band[] {
  return categories.map(({ name, from_mm }, place) => ({
    name,
    from: from_mm,
    to: categories[place + 1]?.from_mm ?? maxMm,
  }));
}
