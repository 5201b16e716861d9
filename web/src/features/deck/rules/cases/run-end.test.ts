import { expect, it } from "vitest";
import shared from "../../../../../../tests/shared/run-end.json";
import { askedAtEnd } from "../run-end";

it.each(shared.cases)("what is asked as a run ends: %o", ({ gear, figures, asked }) =>
  expect(askedAtEnd(shared.rows, { gear: gear as "angling", ...figures })).toEqual(asked),
);
