import type { Schemas } from "@/api/client";
import { readDecimal } from "@/ui/words/read-number";

type Units = Schemas["UnitTable"];

export interface Quantity {
  /** In the base unit: mm or g. */
  value: number;
  unit: string;
  estimated: boolean;
}

export interface Unreadable {
  code: string;
  message: string;
}

const PART = /\s*(?:(?:(\d+)[ -])?(\d+)\/(\d+)|(\d+(?:[.,]\d+)*|\.\d+))/y;
const UNIT = /\s*([A-Za-z]+|["'”″’′])/y;

/**
 * Reads one length or mass with the unit table that core made. Says the same as core's parse_length and parse_mass:
 * both are held to the cases in tests/shared/quantities.json.
 */
export function readQuantity(
  what: "length" | "mass",
  text: string,
  units: Units,
  defaultUnit: string,
): Quantity | Unreadable {
  const fail = (reason: string, message: string): Unreadable => ({ code: `${what}_${reason}`, message });
  let body = text.trim();
  const estimated = body.startsWith("~");
  if (estimated) body = body.slice(1).trim();
  if (!body) return fail("empty", `Expected a ${what}; got nothing.`);
  if (body.length > 40) return fail("unreadable", `Expected a ${what}; got ${body.length} characters.`);

  const parts: { amount: number; unit?: string }[] = [];
  let at = 0;
  while (at < body.length) {
    PART.lastIndex = at;
    const match = PART.exec(body);
    if (!match) {
      const rest = body.slice(at).trim();
      return /^[-−]/.test(rest)
        ? fail("not_positive", `A ${what} is above zero.`)
        : fail("unreadable", `'${rest}' is no number.`);
    }
    const amount = readAmount(match);
    if (typeof amount === "string") return fail(amount, amountMessage(amount, match[0].trim()));
    at = PART.lastIndex;
    UNIT.lastIndex = at;
    const spelled = UNIT.exec(body);
    let unit: string | undefined;
    if (spelled) {
      unit = units.spellings[spelled[1]!.toLowerCase()];
      if (!unit) return fail("unit", `The unit '${spelled[1]}' is not known here.`);
      at = UNIT.lastIndex;
    }
    parts.push({ amount, unit });
    if (at < body.length && !/[ \t0-9.]/.test(body[at]!))
      return fail("unreadable", `'${body.slice(at)}' is left over.`);
  }

  const [first, second] = parts;
  const unit = first!.unit ?? defaultUnit;
  let value = first!.amount * units.factors[unit]!;
  if (parts.length === 2 && first!.unit && second!.unit && second!.unit === units.compound[unit]) {
    value += second!.amount * units.factors[second!.unit]!;
  } else if (parts.length > 1) {
    return fail("unreadable", `'${text.trim()}' holds ${parts.length} numbers, and one ${what} is wanted.`);
  }
  if (!(value > 0)) return fail("not_positive", `A ${what} is above zero.`);
  if (value > (what === "length" ? 20_000 : 40_000_000))
    return fail("too_large", `'${text.trim()}': no fish is. Check the unit.`);
  return { value: Number(value.toFixed(6)), unit, estimated };
}

export const isReadable = (read: Quantity | Unreadable): read is Quantity => "value" in read;

function readAmount(match: RegExpExecArray): number | "unreadable" | "ambiguous" {
  const [, whole, numerator, denominator, number] = match;
  if (numerator)
    return Number(denominator) === 0 ? "unreadable" : Number(whole ?? 0) + Number(numerator) / Number(denominator);
  return readDecimal(number!);
}

function amountMessage(reason: "unreadable" | "ambiguous", text: string): string {
  return reason === "ambiguous"
    ? `'${text}' can be read in two ways; write it with a point or without the comma.`
    : `'${text}' has no one reading.`;
}
