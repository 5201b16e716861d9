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
}

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
  return selection as Selection;
}

/** The selection with one part changed; an empty part is left out. */
export function changed(selection: Selection, part: Partial<Selection>): Selection {
  return readSelection({ ...selection, ...part });
}

/** The query of the address that gives the rows behind a finding. */
export function rowsQuery({ bin_mm: _, ...selection }: Selection): string {
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries(selection))
    for (const each of [value].flat()) query.append(key, String(each));
  return query.toString();
}
