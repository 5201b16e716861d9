import { expect, it } from "vitest";
import shared from "../../../../../../tests/shared/own-length.json";
import { ownLength } from "../own-length";

it.each(shared.cases)("$what", ({ mm, type, own_mm, converted }) => {
  const own = ownLength(mm, type, { length_type: shared.own, conversions: shared.conversions as never });
  expect(own).toEqual(own_mm === null ? null : { mm: own_mm, converted });
});

it("knows no conversion of a deck that was kept before it had them", () => {
  expect(ownLength(400, "FL", { length_type: "TL" })).toBeNull();
});
