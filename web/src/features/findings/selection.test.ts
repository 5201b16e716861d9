import { expect, it } from "vitest";
import { changed, readSelection, rowsQuery } from "./selection";

it("takes from an address what is a selection and leaves the rest", () => {
  const address = {
    species: "wal",
    reach: "Lower river",
    sex: ["f", "m"],
    first: "",
    bin_mm: "10",
    spam: 1,
    estimated: true,
  };
  expect(readSelection(address)).toEqual({
    species: "wal",
    reach: ["Lower river"],
    sex: ["f", "m"],
    bin_mm: 10,
    estimated: true,
  });
  expect(readSelection({ species: 7, bin_mm: "wide", estimated: "maybe" })).toEqual({});
});

it("drops a part that was emptied", () => {
  expect(changed({ species: "wal", reach: ["Lower river"] }, { reach: [] })).toEqual({ species: "wal" });
});

it("asks for the rows of the same selection, whatever the bin", () => {
  const query = new URLSearchParams(rowsQuery({ species: "wal", sex: ["f", "m"], bin_mm: 10 }));
  expect(query.getAll("sex")).toEqual(["f", "m"]);
  expect(query.has("bin_mm")).toBe(false);
});
