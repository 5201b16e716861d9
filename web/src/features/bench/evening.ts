import type { Deck } from "@/features/deck";
import { expectedMass } from "@/features/deck";

/** One thing that is called aloud, what the instruments say meanwhile, and what ought to be in the record after it. */
export interface Step {
  called: string;
  deeds: readonly Record<string, unknown>[];
  /** The fish as it ought to be kept; a step that corrects puts right the fish of the step before. */
  fish?: Fish;
  corrects?: true;
}

export interface Fish {
  species: string;
  length_mm: number | null;
  mass_g: number | null;
}

type Kind = Pick<Deck["species"][number], "code" | "name" | "usual_mm" | "mass_table">;

/** A tag that nobody here gave out: 999 is for tests. */
const FOREIGN = "999000000120001";

/**
 * An evening of an outing's own species, fish by fish, with slips among them: a figure taken back, a mass that never settles, a
 * garbled number. The first three of the list are called, fewer where it has fewer.
 */
export function eveningOf(species: readonly Kind[], number = FOREIGN): Step[] {
  if (!species.length) return [];
  const [first, second, third] = [species[0]!, species[1] ?? species[0]!, species[2] ?? species[0]!];
  const slipped = fishAt(second, 0.45);
  const meant = { ...slipped, length_mm: slipped.length_mm! + 6 };
  const light = { ...fishAt(third, 0.4), mass_g: null };
  return [
    called(first, fishAt(first, 0.42), ", female"),
    called(first, fishAt(first, 0.18)),
    called(first, fishAt(first, 0.58)),
    { called: "the next one has a tag; the reader says it", deeds: [{ do: "pit", number }] },
    called(second, slipped),
    {
      called: `no: the last was ${aloud(meant.length_mm)}`,
      deeds: [{ do: "length", value: meant.length_mm }],
      fish: meant,
      corrects: true,
    },
    {
      called: `${third.name}, ${aloud(light.length_mm!)}; the balance does not settle, leave it`,
      deeds: [
        { do: "length", value: light.length_mm },
        { do: "never settle", value: 140 },
      ],
      fish: light,
    },
    { called: "the reader says something odd: nothing to write", deeds: [{ do: "garble", of: "pit" }] },
    called(first, fishAt(first, 0.12)),
  ];
}

/** A fish so far along what is usual for its species, with the mass that its line expects; without one where it has no line. */
function fishAt({ code, usual_mm, mass_table }: Kind, share: number): Fish {
  const [low, high] = usual_mm as [number, number];
  const mm = Math.round(low + share * (high - low));
  const grams = expectedMass(mass_table, mm);
  return { species: code, length_mm: mm, mass_g: grams === null ? null : Number(grams.toPrecision(2)) };
}

function called(kind: Kind, fish: Fish, more = ""): Step {
  const { length_mm, mass_g } = fish;
  return {
    called: [kind.name, aloud(length_mm!), ...(mass_g === null ? [] : [aloud(mass_g)])].join(", ") + more,
    deeds: [{ do: "length", value: length_mm }, ...(mass_g === null ? [] : [{ do: "mass", value: mass_g }])],
    fish,
  };
}

const DIGITS = ["zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"];
const aloud = (figure: number) => [...String(figure)].map((sign) => DIGITS[Number(sign)] ?? "point").join(" ");

/** What ought to be kept after so many steps of an evening, begun anew where it ended. */
export function fishOf(evening: readonly Step[], steps: number): Fish[] {
  const found: Fish[] = [];
  for (let place = 0; place < steps; place++) {
    const step = evening[place % evening.length]!;
    if (step.corrects) found.pop();
    if (step.fish) found.push(step.fish);
  }
  return found;
}

/** How the fish that were kept compare with those that were called: each is looked for once, in any order. */
export function compare(
  wanted: readonly Fish[],
  kept: readonly Fish[],
): { right: number; missing: Fish[]; odd: Fish[] } {
  const left = [...kept];
  const missing = wanted.filter((each) => {
    const place = left.findIndex(
      (fish) => fish.species === each.species && fish.length_mm === each.length_mm && fish.mass_g === each.mass_g,
    );
    if (place >= 0) left.splice(place, 1);
    return place < 0;
  });
  return { right: wanted.length - missing.length, missing, odd: left };
}
