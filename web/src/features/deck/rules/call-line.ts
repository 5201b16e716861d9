import type { Schemas } from "@/api/client";
import { LEAVING_WORDS, type Leaving } from "./leaving";
import { type CalledMark, readPit } from "./marks";
import { isReadable, readQuantity } from "./quantity";

export interface CalledAmount {
  /** As it was typed: this is what is sent and kept. */
  text: string;
  /** In which the text was read. */
  unit: string;
  /** mm or g. */
  value: number;
  estimated: boolean;
}

/** What the call line understood. */
export interface Call {
  species: string | null;
  /** True where the species was named in this line, false where it is the one before. */
  speciesCalled: boolean;
  length: CalledAmount | null;
  lengthType: string;
  mass: CalledAmount | null;
  sex: "" | "f" | "m" | "u";
  count: number;
  /** Numbers read or typed: of a fish met again, or of a tag to be placed. */
  marks: CalledMark[];
  /** "none": the fish was scanned and nothing was found. */
  scanned: "" | "none";
  /** How it left; null where the call does not say. */
  release: Leaving | null;
  note: string;
  problems: string[];
  empty: boolean;
}

export interface CallSettings {
  species: (Pick<Schemas["DeckSpecies"], "code" | "name"> & Partial<Pick<Schemas["DeckSpecies"], "words">>)[];
  units: Schemas["Units"];
  lengthUnit: string;
  massUnit: string;
  /** Codes of places where fish are taken to, which are called as they are. */
  takenTo?: string[];
  /** Tags that may be placed, for those who call only the last digits. */
  stock?: readonly CalledMark[];
}

const SEX: Record<string, "f" | "m" | "u"> = { f: "f", female: "f", m: "m", male: "m", u: "u" };
/** Longer ones the server refuses. */
export const LONGEST_NOTE = 200;
const LONGEST_AMOUNT = 40;
const PIT = /\d{15}(?!\d)/y;
const LONG_NUMBER = /\d{9,}/y;
const LAST_DIGITS = /^t\d{2,6}$/;
const T_BAR = /#([A-Za-z0-9][A-Za-z0-9-]{1,15})(?=[\s,;]|$)/y;

const LENGTH_TYPES: Record<string, string> = {
  tl: "TL",
  tln: "TLn",
  fl: "FL",
  sl: "SL",
  ljfl: "LJFL",
  efl: "EFL",
  dw: "DW",
};
const AMOUNT = /~?\s*(?:(?:\d+[ -])?\d+\/\d+|\d+(?:[.,]\d+)*|\.\d+)/y;
const WORD = /[^\s,;]+/y;

/**
 * Reads a fish the way it is called: `wal 437 890 f`, in any order that can be read one way only.
 *
 * A bare number is the length first and then the mass; a unit says which it is. `~` marks an estimate, `x14` counts
 * fish that are not measured, and what follows `;` is a note. The species stays until another is called.
 */
export function readCall(line: string, settings: CallSettings, standing: string | null): Call {
  const call: Call = {
    species: standing,
    speciesCalled: false,
    length: null,
    lengthType: "",
    mass: null,
    sex: "",
    count: 1,
    marks: [],
    scanned: "",
    release: null,
    note: "",
    problems: [],
    empty: line.trim() === "",
  };
  const semicolon = line.indexOf(";");
  const text = semicolon < 0 ? line : line.slice(0, semicolon);
  if (semicolon >= 0) call.note = line.slice(semicolon + 1).trim();
  if (call.note.length > LONGEST_NOTE)
    call.problems.push(`A note has at most ${LONGEST_NOTE} characters; this one has ${call.note.length}. Shorten it.`);
  const bare: string[] = [];
  let at = 0;
  while (at < text.length) {
    if (/[\s,]/.test(text[at]!)) {
      at += 1;
      continue;
    }
    const afterMark = takeMark(text, at, call);
    if (afterMark) {
      at = afterMark;
      continue;
    }
    const amount = takeAmount(text, at, settings.units);
    if (amount) {
      if (amount.what) setAmount(call, amount.what, amount.text, settings);
      else bare.push(amount.text);
      at = amount.end;
      continue;
    }
    at = takeWord(text, at, call, settings);
  }
  placeBareNumbers(call, bare, settings);
  if (call.species === "other" && (call.length || call.mass || call.count > 1) && !call.note.split(",")[0]!.trim())
    call.problems.push("Say which species it is: other 231 ; black bullhead");
  if (call.count > 1 && (call.length || call.mass))
    call.problems.push("A length or mass belongs to one fish; call the counted ones apart.");
  if (call.count > 1 && call.marks.length)
    call.problems.push("A mark belongs to one fish; call the counted ones apart.");
  return call;
}

/** A PIT number of 15 digits or a T-bar number after `#`; gives where it ends. */
function takeMark(text: string, at: number, call: Call): number | null {
  for (const [pattern, kind] of [
    [PIT, "pit"],
    [T_BAR, "tbar"],
  ] as const) {
    pattern.lastIndex = at;
    const found = pattern.exec(text);
    if (!found) continue;
    const number = kind === "pit" ? found[0] : found[1]!.toUpperCase();
    if (kind === "pit" && !readPit(number)) {
      call.problems.push(`${number.slice(0, 3)} is no country and no maker of PIT tags. Scan it again.`);
      return at + found[0].length;
    }
    if (!call.marks.some((each) => each.number === number)) call.marks.push({ kind, number });
    return at + found[0].length;
  }
  LONG_NUMBER.lastIndex = at;
  const long = LONG_NUMBER.exec(text)?.[0];
  if (!long) return null;
  call.problems.push(`A PIT number has 15 digits; got ${long.length}: ${long.slice(0, 24)}. Scan it again.`);
  return at + long.length;
}

function takeAmount(
  text: string,
  at: number,
  units: Schemas["Units"],
): { text: string; what: "length" | "mass" | null; end: number } | null {
  AMOUNT.lastIndex = at;
  if (!AMOUNT.exec(text)) return null;
  let end = AMOUNT.lastIndex;
  const first = takeUnit(text, end, units);
  if (!first) {
    // "12abc" or "1e400": no number with a unit of ours; the word as a whole is reported
    if (/[A-Za-z]/.test(text[end] ?? ""))
      return {
        text: text.slice(at).split(/[\s,;]/)[0]!,
        what: "length",
        end: at + text.slice(at).split(/[\s,;]/)[0]!.length,
      };
    return { text: text.slice(at, end).trim(), what: null, end };
  }
  end = first.end;
  AMOUNT.lastIndex = skipSpace(text, end);
  const more = text[AMOUNT.lastIndex] !== "~" && AMOUNT.exec(text);
  if (more) {
    const second = takeUnit(text, AMOUNT.lastIndex, units);
    if (second && units[first.what].compound[first.unit] === second.unit) end = second.end;
  }
  return { text: text.slice(at, end).trim(), what: first.what, end };
}

/** A unit after a number. A metre is taken only when it touches its number: after a space, `m` is a male. */
function takeUnit(
  text: string,
  at: number,
  units: Schemas["Units"],
): { what: "length" | "mass"; unit: string; end: number } | null {
  const start = skipSpace(text, at);
  const word = /^(?:[A-Za-z]+|["'”″’′])/.exec(text.slice(start))?.[0];
  if (!word || (start > at && word.toLowerCase() === "m")) return null;
  for (const what of ["length", "mass"] as const) {
    const unit = units[what].spellings[word.toLowerCase()];
    if (unit) return { what, unit, end: start + word.length };
  }
  return null;
}

function takeWord(text: string, at: number, call: Call, settings: CallSettings): number {
  const named = findSpecies(text.slice(at), settings.species);
  if (named) {
    call.species = named.code;
    call.speciesCalled = true;
    return at + named.length;
  }
  WORD.lastIndex = at;
  const word = WORD.exec(text)?.[0] ?? text[at]!;
  const lower = word.toLowerCase();
  const counted = /^x(\d{1,6})$/.exec(lower);
  if (SEX[lower]) call.sex = SEX[lower];
  else if (lower === "none") call.scanned = "none";
  else if (LEAVING_WORDS[lower]) call.release = LEAVING_WORDS[lower];
  else if (settings.takenTo?.includes(lower)) call.release = { fate: "taken", taken_to: lower };
  else if (LENGTH_TYPES[lower]) call.lengthType = LENGTH_TYPES[lower];
  else if (settings.stock && LAST_DIGITS.test(lower)) takeLastDigits(lower.slice(1), call, settings.stock);
  else if (counted && Number(counted[1]) > 0) call.count = Number(counted[1]);
  else if (/^[-−]\d/.test(word)) call.problems.push(`'${word}': lengths and masses are above zero.`);
  else call.problems.push(`'${word}' is no species, number, unit or sex.`);
  return at + word.length;
}

/** "t345": the one tag in stock that ends so. */
function takeLastDigits(digits: string, call: Call, stock: readonly CalledMark[]): void {
  const fit = stock.filter(({ number }) => number.endsWith(digits));
  if (fit.length === 1) call.marks.push({ kind: fit[0]!.kind, number: fit[0]!.number });
  else
    call.problems.push(
      fit.length
        ? `${fit.length} tags in stock end in ${digits}: call more digits, or scan it.`
        : `No tag in stock ends in ${digits}.`,
    );
}

/** A code, a whole name, or a beginning of at least three letters that only one species has. */
function findSpecies(rest: string, species: CallSettings["species"]): { code: string; length: number } | null {
  const lower = rest.toLowerCase();
  const ends = (length: number) => length === lower.length || /[\s,;0-9~]/.test(lower[length]!);
  const names = species.flatMap(({ code, name, words = [] }) =>
    [name, code, ...words].map((each) => ({ code, name: each.toLowerCase() })),
  );
  const whole = names
    .filter(({ name }) => lower.startsWith(name) && ends(name.length))
    .sort((a, b) => b.name.length - a.name.length)[0];
  if (whole) return { code: whole.code, length: whole.name.length };
  const word = /^[a-z]+(?:-[a-z]+)*/.exec(lower)?.[0] ?? "";
  if (word.length < 3 || !ends(word.length)) return null;
  const begun = new Set(
    names.filter(({ name }) => name.startsWith(word) || name.split(" ").includes(word)).map(({ code }) => code),
  );
  return begun.size === 1 ? { code: [...begun][0]!, length: word.length } : null;
}

function placeBareNumbers(call: Call, bare: string[], settings: CallSettings): void {
  const free = ([call.length ? null : "length", call.mass ? null : "mass"] as const).filter((what) => what !== null);
  bare.forEach((text, place) => {
    const what = free[place];
    if (what) setAmount(call, what, text, settings);
    else call.problems.push(`'${text}' is one number too many: a fish has one length and one mass.`);
  });
}

function setAmount(call: Call, what: "length" | "mass", text: string, settings: CallSettings): void {
  if (call[what]) {
    call.problems.push(`'${text}' is a second ${what}.`);
    return;
  }
  const read = readQuantity(
    what,
    text,
    settings.units[what],
    what === "length" ? settings.lengthUnit : settings.massUnit,
  );
  if (!isReadable(read)) {
    call.problems.push(read.message);
    return;
  }
  const digits = what === "length" ? 1 : 2;
  if (text.length > LONGEST_AMOUNT) call.problems.push(`'${text.slice(0, 20)}...' is too long for a ${what}.`);
  call[what] = { text, unit: read.unit, value: Number(read.value.toFixed(digits)), estimated: read.estimated };
}

function skipSpace(text: string, at: number): number {
  let place = at;
  while (text[place] === " " || text[place] === "\t") place += 1;
  return place;
}

type Called = Pick<
  Schemas["Capture"],
  | "species"
  | "length_text"
  | "length_unit"
  | "length_mm"
  | "length_type"
  | "length_basis"
  | "mass_text"
  | "mass_unit"
  | "mass_g"
  | "mass_basis"
  | "sex"
  | "count"
  | "note"
>;

/** The line that would call this fish again, for correcting it: each text in the unit in which it was called. */
export function callText(
  capture: Called,
  { length_unit, mass_unit }: { length_unit: string; mass_unit: string },
): string {
  const length = amountText(capture.length_text, capture.length_unit, length_unit, {
    value: capture.length_mm,
    unit: "mm",
    estimated: capture.length_basis === "estimated",
  });
  // a mass with no length before it must say that it is a mass
  const mass = amountText(capture.mass_text, capture.mass_unit, length ? mass_unit : "", {
    value: capture.mass_g,
    unit: "g",
    estimated: capture.mass_basis === "estimated",
  });
  return [
    capture.species,
    length,
    length && capture.length_type ? capture.length_type.toLowerCase() : "",
    mass,
    capture.sex === "u" ? "" : capture.sex,
    capture.count > 1 ? `x${capture.count}` : "",
    capture.note ? `; ${capture.note}` : "",
  ]
    .filter(Boolean)
    .join(" ");
}

/** "again": one more fish as the last one was called; nothing where the line does not say so. */
export function repeatedLine(line: string, last: Called, settings: CallSettings): string | null {
  if (!/^\s*again\s*$/i.test(line)) return null;
  const units = { length_unit: settings.lengthUnit, mass_unit: settings.massUnit };
  return callText({ ...last, note: "" }, units);
}

/** "last was 496": what the last fish is once that is said of it; nothing where the line does not say so. */
export function amendedCall(line: string, last: Called, settings: CallSettings): Call | null {
  const amends = /^\s*last\s+was\s+(?=\S)/i.exec(line)?.[0];
  if (!amends) return null;
  const units = { length_unit: settings.lengthUnit, mass_unit: settings.massUnit };
  const before = readCall(callText(last, units), settings, last.species);
  const now = readCall(line.slice(amends.length), settings, last.species);
  const problems = [...now.problems];
  if (now.release || (now.scanned && !now.marks.length))
    problems.push("How it left and whether it was scanned is not called again: touch it in the list.");
  return {
    ...before,
    species: now.species,
    speciesCalled: now.speciesCalled,
    length: now.length ?? before.length,
    lengthType: now.lengthType || before.lengthType,
    mass: now.mass ?? before.mass,
    sex: now.sex || before.sex,
    count: now.count > 1 ? now.count : before.count,
    note: now.note || before.note,
    marks: now.marks,
    scanned: now.scanned,
    problems,
    empty: false,
  };
}

/** A text as it was called; its unit behind it where another would be read into it, and the figure where nobody knows the unit. */
function amountText(
  text: string,
  unit: string,
  read: string,
  figure: { value: number | null; unit: string; estimated: boolean },
): string {
  if (figure.value === null) return "";
  if (!text || !unit) return `${figure.estimated ? "~" : ""}${figure.value} ${figure.unit}`;
  return /\d$/.test(text) && unit !== read ? `${text} ${unit}` : text;
}
