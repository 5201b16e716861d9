import type { Call } from "../rules/call-line";
import { LEAVING_WORDS, type Leaving } from "../rules/leaving";

/** The word of the call line for how a fish left; nothing where the line has none for it. */
function leavingWord({ fate, strength, taken_to, word }: Leaving): string {
  if (word) return word;
  if (taken_to) return taken_to;
  const found = Object.entries(LEAVING_WORDS).find(
    ([, details]) => details.fate === fate && details.strength === (strength ?? undefined) && !details.word,
  );
  return found?.[0] ?? "";
}

/** The call line that says what a call holds, with some of it changed: what was typed, read or touched before stays. */
export function lineWith(call: Call, change: Partial<Call & { lengthText: string }>): string {
  const next = { ...call, ...change };
  const length = change.lengthText ?? call.length?.text ?? "";
  const words = [
    next.species ?? "",
    length,
    length ? next.lengthType.toLowerCase() : "",
    next.mass?.text ?? "",
    next.sex,
    next.count > 1 ? `x${next.count}` : "",
    next.scanned,
    ...next.marks.map(({ kind, number }) => (kind === "pit" ? number : `#${number}`)),
    next.release ? leavingWord(next.release) : "",
    next.note ? `; ${next.note}` : "",
  ];
  return words.filter(Boolean).join(" ");
}

/** A length after a key of the pad: digits are put behind, a text that is no plain number begins anew. */
export function lengthAfter(text: string, key: string): string {
  const estimated = text.startsWith("~");
  const digits = text.replace(/^~\s*/, "");
  if (key === "~") return estimated ? digits : `~${digits}`;
  const next = key === "back" ? digits.slice(0, -1) : /^\d*\.?\d*$/.test(digits) ? digits + key : key;
  return next ? `${estimated ? "~" : ""}${next}` : "";
}
