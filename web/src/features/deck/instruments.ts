/** What the gateway tells of an instrument. */
export interface InstrumentState {
  kind: string;
  title: string;
  state: "connected" | "silent" | "garbled" | "absent";
  why: string;
  garbled: number;
}

/** One thing that an instrument said; `n` is new for each. */
export interface InstrumentReading {
  n: number;
  instrument: string;
  kind: "length" | "mass" | "pit" | "water" | "position";
  text: string;
  values: Record<string, number>;
  stable: boolean;
}

/** Numbers that wait at once; of figures the newest counts. */
const MOST_NUMBERS = 3;

/** What waits to be taken once another reading came: it replaces the one of its kind; each number read waits by itself. */
export function waitingAfter(
  waiting: readonly InstrumentReading[],
  reading: InstrumentReading,
): readonly InstrumentReading[] {
  const others = waiting.filter(
    (each) => each.kind !== reading.kind || (each.kind === "pit" && each.text !== reading.text),
  );
  const numbers = others.filter(({ kind }) => kind === "pit");
  const old = reading.kind === "pit" ? numbers.slice(0, Math.max(0, numbers.length + 1 - MOST_NUMBERS)) : [];
  return [...others.filter((each) => !old.includes(each)), reading];
}

/** What still waits once a fish was kept: its own length, mass and numbers were taken by its call. */
export function waitingBeside(
  waiting: readonly InstrumentReading[],
  fish: { length_mm: number | null; mass_g: number | null; numbers: readonly string[] },
): readonly InstrumentReading[] {
  return waiting.filter(
    ({ kind, values, text }) =>
      !(
        (kind === "length" && values.length === fish.length_mm) ||
        (kind === "mass" && values.mass === fish.mass_g) ||
        (kind === "pit" && fish.numbers.includes(text))
      ),
  );
}

/** As it is put on the call line; null where it does not belong there, or still moves. */
export function asCalled({ kind, values, text, stable }: InstrumentReading): string | null {
  if (!stable) return null;
  if (kind === "length") return `${values.length}mm`;
  if (kind === "mass") return `${values.mass}g`;
  return kind === "pit" ? text : null;
}
