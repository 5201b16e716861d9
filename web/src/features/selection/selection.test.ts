import { expect, it } from "vitest";
import { inWords } from "./filters";
import {
  asAddress,
  askedOf,
  asQuery,
  changed,
  fishOf,
  fromQuery,
  questionOf,
  readSelection,
  rowsQuery,
} from "./selection";

it("takes from an address what is a selection and leaves the rest", () => {
  const address = {
    species: "wal",
    zone: "Lower river",
    sex: ["f", "m"],
    first: "",
    bin_mm: "10",
    spam: 1,
    estimated: true,
  };
  expect(readSelection(address)).toEqual({
    species: "wal",
    zone: ["Lower river"],
    sex: ["f", "m"],
    bin_mm: 10,
    estimated: true,
  });
  expect(readSelection({ species: 7, bin_mm: "wide", estimated: "maybe" })).toEqual({});
});

it("drops a part that was emptied", () => {
  expect(changed({ species: "wal", zone: ["Lower river"] }, { zone: [] })).toEqual({ species: "wal" });
});

it("asks for the rows of the same selection, whatever the bin", () => {
  const query = new URLSearchParams(rowsQuery({ species: "wal", sex: ["f", "m"], bin_mm: 10 }));
  expect(query.getAll("sex")).toEqual(["f", "m"]);
  expect(query.has("bin_mm")).toBe(false);
});

const options = {
  species: [{ code: "wal", name: "walleye" }],
  waters: [{ id: "w", name: "Ketterwick River", zones: [], sites: [{ id: "s", name: "K15", zone: "Lower river" }] }],
  outings: [],
  gears: [{ code: "angling", label: "Angling" }],
} as unknown as Parameters<typeof inWords>[1];

it("tells a selection in words", () => {
  expect(inWords({ species: "wal", zone: ["Lower river"], first: "2024-01-01" }, options)).toBe(
    "walleye, Lower river, since 1 Jan 2024",
  );
  expect(inWords({}, options)).toBe("all species");
  const many = { water: ["w"], site: ["s"], outing: ["a", "b", "c"], gear: ["angling" as const], sex: ["f" as const] };
  expect(inWords({ ...many, first: "2024-01-01", last: "2024-02-01", estimated: true }, options)).toBe(
    "all species, Ketterwick River, K15, 3 outings, angling, females, 1 Jan 2024 to 1 Feb 2024, also judged by eye",
  );
});

it("says nothing in words of what a kind of finding does not read", () => {
  const chosen = { species: "wal", sex: ["f" as const], estimated: true };
  expect(inWords(chosen, options, ["species", "sex"])).toBe("walleye, females");
});

it("puts the key of a kept selection in place of what it stands for", () => {
  const spelt = { species: "wal", outing: ["a", "b"], sex: ["f" as const], bin_mm: 10 };
  expect(asAddress(spelt)).toEqual(spelt);
  expect(asAddress({ ...spelt, chosen: "0123456789abcdef" })).toEqual({
    species: "wal",
    bin_mm: 10,
    chosen: "0123456789abcdef",
  });
});

it("carries what only one kind of finding asks, to the server and back", () => {
  const address = { species: "wal", outing: ["a"], over: "fish", ask: ["agent:tricaine", "purpose:surgery", "x", 7] };
  const read = readSelection(address);
  expect(read.ask).toEqual(["agent:tricaine", "purpose:surgery"]);
  expect(askedOf(read)).toEqual({ agent: "tricaine", purpose: "surgery" });
  expect([fishOf(read), questionOf(read)]).toEqual([
    { species: "wal", outing: ["a"] },
    { over: "fish", ask: read.ask },
  ]);
  const query = asQuery(read);
  expect(query).toEqual({ species: "wal", outing: ["a"], over: "fish", agent: "tricaine", purpose: "surgery" });
  expect(fromQuery(query)).toEqual(read);
});
