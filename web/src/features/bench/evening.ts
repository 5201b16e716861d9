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

/** An evening, fish by fish, with slips among them: a figure taken back, a mass that never settles, a garbled number. */
export const EVENING: readonly Step[] = [
  fish("walleye, four three seven, eight ninety, female", "wal", 437, 890),
  fish("walleye, three one two, two seventy", "wal", 312, 270),
  fish("walleye, five two zero, one four five zero", "wal", 520, 1450),
  { called: "the next one has a tag; the reader says it", deeds: [{ do: "pit", number: "999000000120001" }] },
  fish("pike, six one zero, one five two zero", "nop", 610, 1520),
  {
    called: "no: the last was six one six",
    deeds: [{ do: "length", value: 616 }],
    fish: { species: "nop", length_mm: 616, mass_g: 1520 },
    corrects: true,
  },
  {
    called: "perch, two three one; the balance does not settle, leave it",
    deeds: [
      { do: "length", value: 231 },
      { do: "never settle", value: 140 },
    ],
    fish: { species: "yep", length_mm: 231, mass_g: null },
  },
  { called: "the reader says something odd: nothing to write", deeds: [{ do: "garble", of: "pit" }] },
  fish("walleye, two eight eight, two one zero", "wal", 288, 210),
];

function fish(called: string, species: string, length: number, mass: number): Step {
  return {
    called,
    deeds: [
      { do: "length", value: length },
      { do: "mass", value: mass },
    ],
    fish: { species, length_mm: length, mass_g: mass },
  };
}

/** What ought to be kept after so many steps, the evening begun anew where it ended. */
export function fishOf(steps: number): Fish[] {
  const found: Fish[] = [];
  for (let place = 0; place < steps; place++) {
    const step = EVENING[place % EVENING.length]!;
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
