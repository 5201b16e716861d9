import { readSelection, type Selection } from "@/features/selection";

export const SORTS = ["time", "-time", "length", "-length", "mass", "-mass"] as const;
export type Sort = (typeof SORTS)[number];

export interface RegisterSearch extends Selection {
  sort?: Sort;
  deleted?: boolean;
}

/** Takes from an address what concerns the register and leaves the rest. */
export function readRegisterSearch(search: Record<string, unknown>): RegisterSearch {
  const read: RegisterSearch = readSelection(search);
  if (SORTS.includes(search.sort as Sort)) read.sort = search.sort as Sort;
  if (search.deleted === true) read.deleted = true;
  return read;
}

/** The order after a touch on a column's head: newest, largest first, and then the other way round. */
export function nextSort(sort: Sort, column: "time" | "length" | "mass"): Sort {
  return sort === `-${column}` ? column : `-${column}`;
}
