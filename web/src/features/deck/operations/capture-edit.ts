import type { Schemas } from "@/api/client";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import type { Call, CalledAmount } from "../rules/call-line";
import type { DeckOperation } from "../scope";
import { type AnsweredQuestion, calledFields, calledRow, fishWords } from "./called";

type Capture = Schemas["Capture"];

const kind: DeckOperation<{ capture: string }, Capture> = {
  kind: "capture.edit",
  apply: (deck, { shown }) => ({ ...deck, captures: put(deck.captures, shown) }),
  describe: ({ row }) => `correction ${fishWords(row)}`,
  subject: ({ row }) => row.capture,
};
export default kind;

/**
 * Calls a fish again: only what the new call says otherwise is sent. A fish that the server has not accepted is mended
 * where it stands, under its own key.
 */
export async function correctFish(
  store: DeckStore,
  old: Capture,
  call: Call,
  evidence: string,
  questions: AnsweredQuestion[],
): Promise<void> {
  const shown: Capture = { ...old, ...shownChanges(old, call, evidence, questions) };
  const refused = store.refusedRecord(old.id);
  if (refused) return store.mend(refused, { row: { ...refused.row, ...calledRow(call, evidence, questions) }, shown });
  const changed = changes(old, call, evidence, questions);
  if (!Object.keys(changed).length) return;
  return store.add({ kind: kind.kind, reason: "corrected on deck", row: { capture: old.id, ...changed }, shown });
}

/** A fish that was kept was scanned, and nothing found; `shown` is the fish with that. */
export function sayScannedNone(store: DeckStore, shown: Capture): Promise<void> {
  return store.add({ kind: kind.kind, reason: "scanned", row: { capture: shown.id, scanned: "none" }, shown });
}

/** Another measurement of the fish is the one that stands in the record; what is null stays as it is. */
export function letMeasurementCount(
  store: DeckStore,
  old: Capture,
  { length_mm, mass_g }: { length_mm: number | null; mass_g: number | null },
): Promise<void> {
  const length =
    length_mm === null
      ? {}
      : { length_mm, length_basis: "measured", length_text: String(length_mm), length_unit: "mm" };
  const mass = mass_g === null ? {} : { mass_g, mass_basis: "measured", mass_text: String(mass_g), mass_unit: "g" };
  // doubts that were answered before stay answered
  const questions = [...(old.questions ?? []), { code: "second_measurement", answer: "this one counts" }];
  const shown = { ...old, ...length, ...mass, questions } as Capture;
  const row = {
    capture: old.id,
    ...(length_mm === null ? {} : { length: String(length_mm), length_unit: "mm" }),
    ...(mass_g === null ? {} : { mass: String(mass_g), mass_unit: "g" }),
    questions,
  };
  return store.add({ kind: kind.kind, reason: "measured a second time", row, shown });
}

/** The fields of the row that the new call changes, each text with its unit. */
function changes(old: Capture, call: Call, evidence: string, questions: AnsweredQuestion[]): Record<string, unknown> {
  const row = calledRow(call, evidence, questions);
  const length = !same(call.length, old.length_mm, old.length_basis);
  const mass = !same(call.mass, old.mass_g, old.mass_basis);
  const sex = (call.sex || "u") !== old.sex || (call.sex !== "" && call.sex !== "u" && evidence !== old.sex_evidence);
  const doubted = length || mass || row.species !== old.species;
  return {
    ...(row.species !== old.species ? { species: row.species } : {}),
    ...(row.count !== old.count ? { count: row.count } : {}),
    ...(length ? { length: row.length, ...(call.length ? { length_unit: call.length.unit } : {}) } : {}),
    ...(call.lengthType && call.lengthType !== old.length_type ? { length_type: call.lengthType } : {}),
    ...(mass ? { mass: row.mass, ...(call.mass ? { mass_unit: call.mass.unit } : {}) } : {}),
    ...(sex ? { sex: call.sex || "u", sex_evidence: row.sex_evidence } : {}),
    ...(row.note !== old.note ? { note: row.note } : {}),
    ...(doubted ? { questions } : {}),
  };
}

function shownChanges(old: Capture, call: Call, evidence: string, questions: AnsweredQuestion[]): Partial<Capture> {
  const now = calledFields(call, evidence, questions);
  const length = same(call.length, old.length_mm, old.length_basis);
  const mass = same(call.mass, old.mass_g, old.mass_basis);
  const { length_mm, length_basis, length_text, length_unit, mass_g, mass_basis, mass_text, mass_unit, ...rest } = now;
  return {
    ...rest,
    length_type: call.lengthType || (now.species === old.species ? old.length_type : ""),
    ...(length ? {} : { length_mm, length_basis, length_text, length_unit }),
    ...(mass ? {} : { mass_g, mass_basis, mass_text, mass_unit }),
    questions: length && mass && now.species === old.species ? old.questions : questions,
  };
}

function same(called: CalledAmount | null, value: number | null, basis: string): boolean {
  if (called === null || value === null) return called === null && value === null;
  return called.value === value && called.estimated === (basis === "estimated");
}
