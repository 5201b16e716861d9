import { expect, it } from "vitest";
import shared from "../../../../tests/shared/short-code.json";
import { isCodeOf } from "./callers";

it("knows a code by the digest that the server makes, and no other", () => {
  expect(isCodeOf(shared, shared.code)).toBe(true);
  expect(isCodeOf(shared, "4712")).toBe(false);
  expect(isCodeOf(shared, "")).toBe(false);
});
