import type { Deck } from "../scope";
import { protocolRows } from "./protocol";

/** Share of fish of no wanted species among the last ones; null before so many were caught (core's `deck.nontarget`; tests/shared/nontarget.json). */
export function nontargetShare(
  wanted: readonly string[],
  caught: readonly (readonly [species: string, count: number])[],
  last: number,
): number | null {
  if (!wanted.length || caught.reduce((sum, [, count]) => sum + count, 0) < last) return null;
  let left = last;
  let other = 0;
  for (const [species, count] of caught.toReversed()) {
    const taken = Math.min(count, left);
    if (!wanted.includes(species)) other += taken;
    left -= taken;
    if (left === 0) break;
  }
  return other / last;
}

/** What to do where too many of a run's last fish are of no target, in words; null where nothing is to be said. */
export function moveOn(deck: Pick<Deck, "captures" | "targets" | "protocol">, run: string): string | null {
  const row = protocolRows(deck, "non_target")[0];
  if (!row) return null;
  const wanted = deck.targets.map(({ species }) => species);
  const caught = deck.captures
    .filter((each) => each.run === run)
    .map(({ species, count }): [string, number] => [species, count ?? 1]);
  const share = nontargetShare(wanted, caught, Number(row.last));
  if (share === null || share < Number(row.share)) return null;
  return `${Math.round(100 * share)} % of the last ${row.last} fish are non-target: move on.`;
}
