import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";

export type Report = Schemas["ReportRequest"];
type When = "" | "today" | "yesterday" | "other" | "unknown";

/** A report as it is being written; it stays on the phone until it has been sent. */
export interface Draft {
  id: string;
  number: string;
  /** A code; "unknown" where they do not know, empty where they have not said. */
  species: string;
  when: When;
  day: string;
  about: boolean;
  position: { lat: number; lon: number; error_m: number; by: "phone" | "map" } | null;
  place_text: string;
  length: string;
  length_unit: string;
  length_estimated: boolean;
  mass: string;
  mass_unit: string;
  means: Report["means"];
  fish_fate: Report["fish_fate"];
  tag_fate: Report["tag_fate"];
  remarks: string;
  contact: NonNullable<Report["contact"]>;
}

/** How far "about" may be off, days. */
const ABOUT_DAYS = 10;

export function emptyDraft(unit: string): Draft {
  return {
    id: uuidv7(),
    number: "",
    species: "",
    when: "",
    day: "",
    about: false,
    position: null,
    place_text: "",
    length: "",
    length_unit: unit === "in" ? "in" : "cm",
    length_estimated: false,
    mass: "",
    mass_unit: unit === "in" ? "lb" : "kg",
    means: "",
    fish_fate: "",
    tag_fate: "",
    remarks: "",
    contact: { name: "", email: "", telephone: "", post: "", consent: false, under_age: false, guardian: "" },
  };
}

/** What is sent of a draft; `now` in the phone's own days. */
export function reportOf(draft: Draft, photo: string | null, language: string, now: Date): Report {
  const { position, contact } = draft;
  const filled = [contact.name, contact.email, contact.telephone, contact.post].some((each) => each?.trim());
  return {
    id: draft.id,
    number: draft.number,
    species: draft.species === "unknown" ? "" : draft.species,
    found_on: dayOf(draft, now),
    found_within_days: draft.when === "other" && draft.about ? ABOUT_DAYS : 0,
    lat: position?.lat ?? null,
    lon: position?.lon ?? null,
    error_m: position ? Math.max(1, position.error_m) : null,
    place_text: draft.place_text,
    length: withUnit(draft.length, draft.length_unit),
    length_estimated: draft.length_estimated,
    mass: withUnit(draft.mass, draft.mass_unit),
    means: draft.means,
    fish_fate: draft.fish_fate,
    tag_fate: draft.tag_fate,
    remarks: draft.remarks,
    language,
    photo,
    contact: filled ? contact : null,
  };
}

/** Whoever writes a unit themselves means that one. */
function withUnit(text: string, unit: string): string {
  const value = text.trim();
  return value === "" || /[a-z"']/i.test(value) ? value : `${value} ${unit}`;
}

function dayOf({ when, day }: Draft, now: Date): string | null {
  if (when === "other") return day || null;
  if (when !== "today" && when !== "yesterday") return null;
  const moment = new Date(now);
  if (when === "yesterday") moment.setDate(moment.getDate() - 1);
  const two = (value: number) => String(value).padStart(2, "0");
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
}

const keyOf = (address: string) => `report:${address}`;

export function savedDraft(address: string): Draft | null {
  try {
    const text = localStorage.getItem(keyOf(address));
    return text ? (JSON.parse(text) as Draft) : null;
  } catch {
    return null; // a phone that keeps nothing
  }
}

export function saveDraft(address: string, draft: Draft | null): void {
  try {
    if (draft) localStorage.setItem(keyOf(address), JSON.stringify(draft));
    else localStorage.removeItem(keyOf(address));
  } catch {
    // a phone that keeps nothing: the report lives as long as the page
  }
}
