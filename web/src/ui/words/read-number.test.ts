import { expect, it } from "vitest";
import cases from "../../../../tests/shared/numbers.json";
import { readNumber } from "./read-number";

it.each(cases as { text: string; value?: number; error?: string }[])(
  "reads '$text' as core does",
  ({ text, value, error }) => {
    expect(readNumber(text)).toMatchObject(error ? { code: error } : { value });
  },
);
