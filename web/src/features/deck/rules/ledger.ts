import type { Schemas } from "@/api/schemas";
import type { Deck } from "../scope";

export type LedgerRow = Omit<Schemas["LedgerRow"], "deaths">;

const FATES = ["released", "dead", "kept", "escaped", "taken"] as const;

/** Fish of this outing by species and by how they left, those that are not sent yet among them; all together last. */
export function ledgerOf({ captures, species }: Pick<Deck, "captures" | "species">): LedgerRow[] {
  const rows = species.map(({ code, name }) =>
    rowOf(
      code,
      name,
      captures.filter((each) => each.species === code),
    ),
  );
  return [...rows.filter(({ came }) => came > 0).sort((a, b) => b.came - a.came), rowOf("", "All species", captures)];
}

function rowOf(species: string, name: string, captures: Deck["captures"]): LedgerRow {
  const many = (which: (each: Deck["captures"][number]) => boolean) =>
    captures.filter(which).reduce((sum, { count }) => sum + (count ?? 1), 0);
  const fates = Object.fromEntries(FATES.map((fate) => [fate, many(({ release }) => release === fate)]));
  return {
    species,
    name,
    came: many(() => true),
    aboard: many(({ release }) => !release),
    ...(fates as Record<(typeof FATES)[number], number>),
    strengths: [1, 2, 3, 4].map((n) => many(({ release, strength }) => release === "released" && strength === n)),
  };
}

/** Fish that have left and were not kept on purpose: deaths are told of them. */
export const leftNotKept = ({ released, dead, escaped, taken }: LedgerRow) => released + dead + escaped + taken;

/** What the deaths say with no signal; an interval for some of n waits for the server (tests/shared/none-of-n.json). */
export function deathsWords(row: LedgerRow): string {
  const n = leftNotKept(row);
  if (n === 0) return "";
  if (row.dead > 0) return `${row.dead} of ${n} died; limit available when online.`;
  return `None of ${n.toLocaleString("en")} died; true rate up to ${noneOf(n)} % (95 %).`;
}

/** The highest death rate that none of n still allows, per cent: 1 - 0.05^(1/n). */
export function noneOf(n: number): string {
  return (-100 * Math.expm1(Math.log(0.05) / n)).toFixed(1);
}
