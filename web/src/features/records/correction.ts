import type { Schemas } from "@/api/client";
import { formatTime } from "@/ui/words/format";
import { readClock } from "@/ui/words/read-clock";

type Capture = Schemas["FoundCapture"];
type Correction = Omit<Schemas["CorrectionRequest"], "id" | "reason">;

/** The fields of the form in which a fish is put right. */
export interface CorrectionForm {
  length: string;
  length_unit: string;
  mass: string;
  mass_unit: string;
  sex: Capture["sex"];
  note: string;
  species: string;
  /** Key of the run in which it was caught; empty where that is not shown. */
  run: string;
  /** Local time of the day, such as 21:40. */
  caught: string;
  /** How it left, and how strongly: "released 2"; empty where nobody said. */
  left: string;
}

/** A fish as the form shows it: each text with the unit in which it was read; where nobody knows that, the figure itself. */
export function formOf(capture: Capture, timeZone: string): CorrectionForm {
  const { length_unit, length_text, length_mm, mass_unit, mass_text, mass_g } = capture;
  const text = (unit: string, called: string, figure: number | null, basis: string) =>
    unit || figure === null ? called : `${basis === "estimated" ? "~" : ""}${figure}`;
  return {
    length: text(length_unit, length_text, length_mm, capture.length_basis),
    length_unit: length_unit || "mm",
    mass: text(mass_unit, mass_text, mass_g, capture.mass_basis),
    mass_unit: mass_unit || "g",
    sex: capture.sex,
    note: capture.note,
    species: capture.species,
    run: capture.run ?? "",
    caught: formatTime(capture.device_time, timeZone),
    left: [capture.release, capture.strength].filter(Boolean).join(" "),
  };
}

/** Only what the form says otherwise than the fish: a text goes with its unit, and its unit with the text. */
export function changesIn(capture: Capture, timeZone: string, form: CorrectionForm): Correction {
  const before = formOf(capture, timeZone);
  const differs = (...names: (keyof CorrectionForm)[]) => names.some((name) => form[name].trim() !== before[name]);
  return {
    ...(differs("length", "length_unit")
      ? { length: form.length, length_unit: form.length_unit as Correction["length_unit"] }
      : {}),
    ...(differs("mass", "mass_unit") ? { mass: form.mass, mass_unit: form.mass_unit as Correction["mass_unit"] } : {}),
    ...(differs("sex") ? { sex: form.sex } : {}),
    ...(differs("note") ? { note: form.note } : {}),
    ...(differs("species") ? { species: form.species } : {}),
    ...(differs("run") && form.run ? { run: form.run } : {}),
    ...(differs("caught") ? { caught_at: readClock(form.caught, capture.device_time, timeZone) ?? form.caught } : {}),
    ...(differs("left") ? leftAs(form.left) : {}),
  };
}

function leftAs(left: string): Pick<Correction, "fate" | "strength"> {
  const [fate = "", strength] = left.split(" ");
  return {
    fate: (fate || null) as Correction["fate"],
    strength: strength ? (Number(strength) as Correction["strength"]) : null,
  };
}
