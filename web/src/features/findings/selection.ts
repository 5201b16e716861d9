/** A selection as it stands in the address, so that whoever gets the address sees the same finding. */
export interface Selection {
  species?: string;
  outing?: string[];
  water?: string[];
  site?: string[];
  reach?: string[];
  gear?: ("boat_electrofishing" | "backpack_electrofishing" | "angling")[];
  sex?: ("f" | "m" | "u")[];
  first?: string;
  last?: string;
  estimated?: boolean;
  bin_mm?: number;
  /** What groups are made by, in a comparison. */
  by?: Grouping;
  /** Cohorts: how many, how spread, where their means start (mm). */
  k?: number;
  spread?: Spread;
  start?: number[];
}

export const GROUPINGS = ["year", "season", "water", "reach", "site", "gear", "sex"] as const;
export type Grouping = (typeof GROUPINGS)[number];
export const SPREADS = { free: "each its own", equal_sd: "equal SD", constant_cv: "constant CV" } as const;
export type Spread = keyof typeof SPREADS;

const LISTS = ["outing", "water", "site", "reach", "gear", "sex"] as const;

/** Takes from an address what is a selection and leaves the rest. */
export function readSelection(search: Record<string, unknown>): Selection {
  const selection: Record<string, unknown> = {};
  for (const key of ["species", "first", "last"])
    if (typeof search[key] === "string" && search[key]) selection[key] = search[key];
  for (const key of LISTS) {
    const list = [search[key]].flat().filter((each) => typeof each === "string" && each);
    if (list.length) selection[key] = list;
  }
  if (search.estimated === true) selection.estimated = true;
  if (Number(search.bin_mm) > 0) selection.bin_mm = Number(search.bin_mm);
  if (GROUPINGS.includes(search.by as Grouping)) selection.by = search.by;
  if (Number.isInteger(Number(search.k)) && Number(search.k) > 0) selection.k = Number(search.k);
  if (typeof search.spread === "string" && search.spread in SPREADS) selection.spread = search.spread;
  const start = [search.start]
    .flat()
    .map(Number)
    .filter((mm) => mm > 0);
  if (start.length) selection.start = start;
  return selection as Selection;
}

/** The selection with one part changed; an empty part is left out. */
export function changed(selection: Selection, part: Partial<Selection>): Selection {
  return readSelection({ ...selection, ...part });
}

/** The query of the address that gives the rows behind a finding. */
export function rowsQuery({ bin_mm: _b, by: _y, k: _k, spread: _s, start: _m, ...selection }: Selection): string {
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries(selection))
    for (const each of [value].flat()) query.append(key, String(each));
  return query.toString();
}
