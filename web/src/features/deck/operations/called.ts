import type { Schemas } from "@/api/client";
import type { Call, CalledAmount } from "../rules/call-line";

type Capture = Schemas["Capture"];
export type AnsweredQuestion = Schemas["AnsweredQuestion"];

/** What a call says of a fish, as the server reads it: texts, each with the unit beside it. */
export function calledRow(call: Call, evidence: string, questions: AnsweredQuestion[]) {
  return {
    species: call.species,
    count: call.count,
    length: call.length?.text ?? "",
    ...(call.length ? { length_unit: call.length.unit } : {}),
    length_type: call.lengthType,
    mass: call.mass?.text ?? "",
    ...(call.mass ? { mass_unit: call.mass.unit } : {}),
    sex: call.sex,
    sex_evidence: call.sex === "f" || call.sex === "m" ? evidence : "",
    note: call.note,
    questions,
  };
}

/** What a call says of a fish, as this device shows it until the server's row comes. */
export function calledFields(call: Call, evidence: string, questions: AnsweredQuestion[]) {
  const basis = (amount: CalledAmount | null) => (amount ? (amount.estimated ? "estimated" : "measured") : "");
  const sex = call.sex || "u";
  return {
    species: call.species!,
    count: call.count,
    length_mm: call.length?.value ?? null,
    length_type: call.lengthType,
    length_basis: basis(call.length),
    length_text: call.length?.text ?? "",
    length_unit: call.length?.unit ?? "",
    mass_g: call.mass?.value ?? null,
    mass_basis: basis(call.mass),
    mass_text: call.mass?.text ?? "",
    mass_unit: call.mass?.unit ?? "",
    sex,
    sex_evidence: sex === "u" ? "" : evidence,
    note: call.note,
    questions,
  } satisfies Partial<Capture>;
}

/** A fish in a few words. */
export function fishWords(row: Record<string, unknown>): string {
  const sex = row.sex === "u" ? "" : row.sex;
  return [row.species, row.length, row.mass, sex, row.note && `; ${row.note}`].filter(Boolean).join(" ");
}
