import type { Schemas } from "@/api/client";
import { readDegrees } from "@/ui/words/read-degrees";
import { isNumber, readNumber } from "@/ui/words/read-number";
import type { Report } from "./queries";
import type { FISH_FATES, MEANS, TAG_FATES } from "./words";

/** What a report says, as staff type it; empty: unknown. */
export interface Said {
  species: string;
  found_on: string;
  found_within_days: string;
  lat: string;
  lon: string;
  error_m: string;
  place_text: string;
  length: string;
  length_estimated: boolean;
  mass: string;
  means: "" | keyof typeof MEANS;
  fish_fate: "" | keyof typeof FISH_FATES;
  tag_fate: "" | keyof typeof TAG_FATES;
}

type Body = Schemas["SaidRequest"];

export const NOTHING_SAID: Said = {
  species: "",
  found_on: "",
  found_within_days: "",
  lat: "",
  lon: "",
  error_m: "",
  place_text: "",
  length: "",
  length_estimated: false,
  mass: "",
  means: "",
  fish_fate: "",
  tag_fate: "",
};

export function detailsOf(report: Report): Said {
  const text = (value: number | null | undefined) => (value === null || value === undefined ? "" : String(value));
  return {
    species: report.species ?? "",
    found_on: report.found_on ?? "",
    found_within_days: report.found_within_days ? String(report.found_within_days) : "",
    lat: text(report.lat),
    lon: text(report.lon),
    error_m: text(report.error_m),
    place_text: report.place_text ?? "",
    length: report.length_text ?? "",
    length_estimated: report.length_estimated ?? false,
    mass: report.mass_text ?? "",
    means: report.means ?? "",
    fish_fate: report.fish_fate ?? "",
    tag_fate: report.tag_fate ?? "",
  };
}

const PLACE = ["lat", "lon", "error_m"] as const;
const LENGTH = ["length", "length_estimated"] as const;

/**
 * The fields of a form that were changed, as they are sent: nothing else of the record changes. A position is sent whole, and so is a
 * length with its being estimated. What cannot be read comes back as errors by field.
 */
export function bodyOf(
  said: Said,
  changed: readonly (keyof Said)[],
): { body: Body } | { errors: Record<string, string> } {
  const errors: Record<string, string> = {};
  const number = (name: "found_within_days" | "error_m") => {
    if (!said[name].trim()) return null;
    const read = readNumber(said[name]);
    if (isNumber(read)) return read.value;
    errors[name] = read.message;
    return null;
  };
  const degrees = (name: "lat" | "lon") => {
    const read = readDegrees(said[name], name === "lat" ? "latitude" : "longitude");
    if (read && "message" in read) errors[name] = read.message;
    return read && "value" in read ? read.value : null;
  };
  const body: Body = {};
  const has = (names: readonly (keyof Said)[]) => names.some((name) => changed.includes(name));
  if (has(PLACE)) Object.assign(body, { lat: degrees("lat"), lon: degrees("lon"), error_m: number("error_m") });
  if (has(LENGTH)) Object.assign(body, { length: said.length, length_estimated: said.length_estimated });
  if (has(["found_on"])) body.found_on = said.found_on || null;
  if (has(["found_within_days"])) body.found_within_days = number("found_within_days") ?? 0;
  for (const name of ["species", "place_text", "mass", "means", "fish_fate", "tag_fate"] as const)
    if (has([name])) Object.assign(body, { [name]: said[name] });
  return Object.keys(errors).length ? { errors } : { body };
}
