import { z } from "@/ui/z";

/** An optional figure of a form: empty is null, anything but a number in range says what was expected. */
export function figure(low: number, high: number, unit: string) {
  return z
    .string()
    .trim()
    .transform((text, context) => {
      if (!text) return null;
      const value = Number(text);
      if (/^-?\d*\.?\d+$/.test(text) && value >= low && value <= high) return value;
      context.addIssue({ code: "custom", message: `Expected ${low} to ${high} ${unit}; got '${text}'.` });
      return z.NEVER;
    });
}

export function asText(value: number | null | undefined): string {
  return value == null ? "" : String(value);
}
