// @vitest-environment jsdom
import { expect, it } from "vitest";
import { nextSort, readRegisterSearch } from "./register-search";

it("takes order and selection from an address and leaves the rest", () => {
  const address = { species: "wal", sort: "-length", deleted: true, spam: 1 };
  expect(readRegisterSearch(address)).toEqual({ species: "wal", sort: "-length", deleted: true });
  expect(readRegisterSearch({ sort: "colour", deleted: "yes" })).toEqual({});
});

it("turns round at the second touch", () => {
  expect(nextSort("-time", "length")).toBe("-length");
  expect(nextSort("-length", "length")).toBe("length");
  expect(nextSort("length", "length")).toBe("-length");
});
