import type { Deck } from "../scope";
import type { Batch, FishAboard } from "./lanes";
import { ownLength } from "./own-length";
import { bandFor, protocolRows } from "./protocol";
import { expectedMass } from "./relative-weight";
import tables from "./rule-tables.gen.json";

/** Core's `deck.well` again, for work with no signal; held to it by tests/shared/well.json. */
export interface InWell {
  count: number;
  /** All together, weighed or by length, g; null where nobody knows. */
  mass_g: number | null;
  /** Grams of its kind that a litre takes; null: as fish in general. */
  g_l: number | null;
}

export interface Filling {
  load: number;
  number: number;
  full: "" | "load" | "number";
}

/** How much of a live well its fish take, as shares; a fish of unknown mass takes a place of a large one. */
export function filling(fish: readonly InWell[], litres: number, most_fish: number, g_l: number): Filling {
  let load = 0;
  let unknown = 0;
  for (const each of fish) {
    if (each.mass_g === null) unknown += each.count;
    else load += each.mass_g / ((each.g_l ?? g_l) * litres);
  }
  const number = unknown / most_fish;
  return { load, number, full: load + number <= 1 ? "" : load >= number ? "load" : "number" };
}

/** What the fish of a batch weigh that were not called yet, g; null where nothing tells. */
export function massOfUncalled(
  left: number,
  n: number,
  batch_g: number | null,
  known: readonly (readonly [count: number, mass_g: number])[],
): number | null {
  if (batch_g !== null) return (batch_g * left) / n;
  const fish = known.reduce((sum, [count]) => sum + count, 0);
  if (fish < tables.well.least_known) return null;
  return (left * known.reduce((sum, [, mass]) => sum + mass, 0)) / fish;
}

type Capture = Deck["captures"][number];

/** What a called fish weighs, or the fish of an entry together: weighed, or by length; null where nobody knows. */
function massOf(deck: Pick<Deck, "species">, capture: Capture): number | null {
  const { length_mm, mass_g, count } = capture;
  if (mass_g !== null) return mass_g;
  const species = deck.species.find(({ code }) => code === capture.species);
  const own = species && length_mm !== null ? ownLength(length_mm, capture.length_type ?? "", species) : null;
  const each = own && expectedMass(species?.mass_table, own.mm);
  return each === null ? null : each * (count ?? 1);
}

/** What takes room in the live well: the fish that stand in it, and the netted ones that wait to be called. */
export function wellOf(
  deck: Pick<Deck, "species" | "protocol" | "captures">,
  standing: readonly FishAboard["capture"][],
  uncalled: readonly (Batch & { left: number })[],
): InWell[] {
  const rooms = protocolRows(deck, "well_room");
  const called = standing.map((capture) => {
    const row = bandFor(rooms, capture.species, capture.length_mm);
    return { count: capture.count ?? 1, mass_g: massOf(deck, capture), g_l: row && Number(row.kg_100l) * 10 };
  });
  if (!uncalled.length) return called;
  const known = deck.captures.flatMap((each): [number, number][] => {
    const mass = massOf(deck, each);
    return mass === null ? [] : [[each.count ?? 1, mass]];
  });
  const waiting = uncalled.map(({ left, n, mass_g }) => ({
    count: left,
    mass_g: massOfUncalled(left, n, mass_g ?? null, known),
    g_l: null,
  }));
  return [...called, ...waiting];
}

/** Why no more fish should go into the live well, in words; null where it holds more, or nothing is ordered. */
export function wellFull({ orders }: Pick<Deck, "orders">, fish: readonly InWell[]): string | null {
  const well = orders?.well;
  if (!well) return null;
  const { load, number, full } = filling(fish, well.litres, well.most_fish, well.most_g / well.litres);
  if (!full) return null;
  const grams = fish.reduce((sum, { mass_g }) => sum + (mass_g ?? 0), 0);
  const unknown = fish.reduce((sum, { count, mass_g }) => sum + (mass_g === null ? count : 0), 0);
  const what = [load > 0 && `about ${(grams / 1000).toFixed(1)} kg`, number > 0 && `${unknown} of unknown mass`].filter(
    Boolean,
  );
  return `The live well is too full: ${what.join(" and ")}; ${well.litres} L take ${(well.most_g / 1000).toFixed(1)} kg or ${well.most_fish} large fish.`;
}
