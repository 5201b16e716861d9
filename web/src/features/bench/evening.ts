/** An evening at the instruments, fish by fish: what is called aloud, slips among it, and what the instruments say meanwhile. */
export const EVENING: readonly { called: string; deeds: readonly Record<string, unknown>[] }[] = [
  fish("walleye, four three seven, eight ninety, female", 437, 890),
  fish("walleye, three one two, two seventy", 312, 270),
  fish("walleye, five two zero, one four five zero, scanned, none", 520, 1450),
  { called: "walleye, recapture, reading", deeds: [{ do: "pit", number: "999000000120001" }] },
  fish("pike, six one zero, one five two zero", 610, 1520),
  { called: "no, six one six", deeds: [{ do: "length", value: 616 }] },
  {
    called: "perch, two three one, weight is not coming",
    deeds: [
      { do: "length", value: 231 },
      { do: "never settle", value: 140 },
    ],
  },
  { called: "reader says something odd, again", deeds: [{ do: "garble", of: "pit" }] },
  fish("walleye, two eight eight, two one zero", 288, 210),
];

function fish(called: string, length: number, mass: number) {
  return {
    called,
    deeds: [
      { do: "length", value: length },
      { do: "mass", value: mass },
    ],
  };
}
