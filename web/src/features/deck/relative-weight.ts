import type { Schemas } from "@/api/schemas";

/** Relative weight, %, by core's table of standard weights; null where it is not defined (tests in relative-weight.test.ts). */
export function relativeWeight(
  { length_mm, standard_g }: Schemas["MassTable"],
  mm: number,
  grams: number,
): number | null {
  const place = length_mm.findIndex((each) => each >= mm);
  if (place >= 0 && length_mm[place] === mm && standard_g?.[place] != null) return (100 * grams) / standard_g[place];
  const [above, below] = [standard_g?.[place], standard_g?.[Math.max(place - 1, 0)]];
  if (place < 0 || above == null || below == null) return null;
  const [from, to] = [length_mm[Math.max(place - 1, 0)]!, length_mm[place]!];
  // standard weights are powers of length: straight between two logarithms
  const share = to === from ? 0 : Math.log(mm / from) / Math.log(to / from);
  return (100 * grams) / (below * (above / below) ** share);
}
