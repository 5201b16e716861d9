/** A number as it was read, or why it was not. */
export type ReadNumber = { value: number } | { code: string; message: string };

/**
 * Reads a figure as people type it. Says the same as core's parse_number: both are held to tests/shared/numbers.json.
 */
export function readNumber(text: string): ReadNumber {
  const body = text.trim();
  if (!body) return { code: "number_empty", message: "Expected a number such as 7.5; got nothing." };
  const negative = /^[-−]/.test(body);
  const digits = negative ? body.slice(1) : body;
  const read =
    body.length <= 40 && /^(?:[0-9]+(?:[.,][0-9]+)*|\.[0-9]+)$/.test(digits) ? readDecimal(digits) : "unreadable";
  if (typeof read === "number") return { value: negative ? -read : read };
  return read === "ambiguous"
    ? {
        code: "number_ambiguous",
        message: `'${body}' can be read in two ways; write it with a point or without the comma.`,
      }
    : { code: "number_unreadable", message: `Expected a number such as 7.5; got '${body.slice(0, 40)}'.` };
}

export const isNumber = (read: ReadNumber): read is { value: number } => "value" in read;

/** Digits with points and commas; a comma is a decimal sign only where it cannot part thousands. */
export function readDecimal(number: string): number | "unreadable" | "ambiguous" {
  if (number.split(".").length > 2) return "unreadable";
  if (!number.includes(",")) return Number(number);
  if (/^[1-9]\d{0,2}(,\d{3})+\.\d+$/.test(number) || /^[1-9]\d{0,2}(,\d{3}){2,}$/.test(number))
    return Number(number.replaceAll(",", ""));
  const decimal = /^(\d+),(\d+)$/.exec(number);
  if (!decimal) return "unreadable";
  if (decimal[2]!.length === 3 && /^[1-9]\d{0,2}$/.test(decimal[1]!)) return "ambiguous";
  return Number(`${decimal[1]}.${decimal[2]}`);
}
