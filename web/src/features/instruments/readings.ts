import { markText } from "@/ui/words/mark-text";

/** How an instrument does, by the gateway or on this tablet's own cable. */
export interface InstrumentState {
  kind: string;
  title: string;
  state: "connected" | "silent" | "garbled" | "absent";
  why: string;
  garbled: number;
}

/** One thing that an instrument said; `n` is new for each. */
export interface InstrumentReading {
  /** Of a stand-in: no reading of a fish. */
  simulated?: boolean;
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

/** A reading as it is shown. */
export function readingWords({ kind, values, text, stable }: InstrumentReading): string {
  if (kind === "length") return `${values.length} mm`;
  if (kind === "mass") return stable ? `${values.mass} g` : `${values.mass} g, settling...`;
  if (kind === "pit") return `PIT ${markText({ kind: "pit", number: text })}`;
  if (kind === "position") return placeWords(values);
  const { temperature_c, ambient_us_cm, oxygen_mg_l } = values;
  return [
    temperature_c !== undefined && `${temperature_c} °C`,
    ambient_us_cm !== undefined && `${ambient_us_cm} µS/cm`,
    oxygen_mg_l !== undefined && `${oxygen_mg_l} mg/L`,
  ]
    .filter(Boolean)
    .join(", ");
}

/** A position, degrees to about ten metres. */
export const placeWords = ({ lat, lon }: Record<string, number>) => `${lat!.toFixed(4)}, ${lon!.toFixed(4)}`;
