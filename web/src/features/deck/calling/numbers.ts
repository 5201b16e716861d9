import { isNumber, readNumber } from "@/ui/words/read-number";
import { z } from "@/ui/z";

/** An optional figure of a form: empty is null, anything but a number in range says what was expected. */
export function figure(low: number, high: number, unit: string) {
  return z
    .string()
    .trim()
    .transform((text, context) => {
      if (!text) return null;
      const read = readNumber(text);
      if (isNumber(read) && read.value >= low && read.value <= high) return read.value;
      const twoWays = !isNumber(read) && read.code === "number_ambiguous";
      context.addIssue({
        code: "custom",
        message: twoWays ? read.message : `Expected ${low} to ${high} ${unit}; got '${text}'.`,
      });
      return z.NEVER;
    });
}

export function asText(value: number | null | undefined): string {
  return value == null ? "" : String(value);
}

/** A figure as far as it is typed; 0 where it cannot be read yet. */
export function figureIn(text: string): number {
  const read = readNumber(text);
  return isNumber(read) ? read.value : 0;
}
