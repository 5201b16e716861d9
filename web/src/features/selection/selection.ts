import { FILTERS, type Filters, readFilters } from "./filters";

/** A selection and a question as they stand in the address, so that whoever gets the address sees the same finding. */
export interface Selection extends Filters {
  /** What intervals are over, where it is not sites: sites and years, or fish. */
  over?: "years" | "fish";
  bin_mm?: number;
  /** What groups are made by, in a comparison. */
  by?: Grouping;
  /** Cohorts: how many, how spread, where their means start (mm). */
  k?: number;
  spread?: Spread;
  start?: number[];
  /** What else a kind of finding asks, as "name:value": only that kind knows what they mean. */
  ask?: string[];
  /** The key under which this selection is kept, where it is too long for an address. */
  chosen?: string;
}

export const GROUPINGS = ["year", "season", "water", "zone", "site", "gear", "sex"] as const;
export type Grouping = (typeof GROUPINGS)[number];
export const SPREADS = { free: "each its own", equal_sd: "equal SD", constant_cv: "constant CV" } as const;
export type Spread = keyof typeof SPREADS;

const ASKED = /^[a-z_]{1,20}:.{1,40}$/;

/** Takes from an address what is a selection and leaves the rest. */
export function readSelection(search: Record<string, unknown>): Selection {
  const selection: Record<string, unknown> = { ...readFilters(search) };
  if (typeof search.chosen === "string" && search.chosen) selection.chosen = search.chosen;
  if (search.over === "fish" || search.over === "years") selection.over = search.over;
  if (Number(search.bin_mm) > 0) selection.bin_mm = Number(search.bin_mm);
  if (GROUPINGS.includes(search.by as Grouping)) selection.by = search.by;
  if (Number.isInteger(Number(search.k)) && Number(search.k) > 0) selection.k = Number(search.k);
  if (typeof search.spread === "string" && search.spread in SPREADS) selection.spread = search.spread;
  const start = [search.start]
    .flat()
    .map(Number)
    .filter((mm) => mm > 0);
  if (start.length) selection.start = start;
  const ask = [search.ask].flat().filter((each) => typeof each === "string" && ASKED.test(each));
  if (ask.length) selection.ask = ask;
  return selection as Selection;
}

/** The selection with one part changed; an empty part is left out. */
export function changed(selection: Selection, part: Partial<Selection>): Selection {
  return readSelection({ ...selection, ...part });
}

const OF_FISH = new Set<string>([...FILTERS.map(({ name }) => name), "chosen"]);

function only<T extends Selection>(selection: T, wanted: (name: string) => boolean): T {
  return Object.fromEntries(Object.entries(selection).filter(([name]) => wanted(name))) as T;
}

/** What of a selection says which fish, without what is asked of them. */
export const fishOf = (selection: Selection): Selection => only(selection, (name) => OF_FISH.has(name));

/** What is asked of them, without which fish they are. */
export const questionOf = (selection: Selection): Selection => only(selection, (name) => !OF_FISH.has(name));

/** The selection as an address holds it: where it is kept under a key, the key in place of what it stands for. */
export function asAddress<T extends Selection>(selection: T): T {
  if (!selection.chosen) return selection;
  return only(selection, (name) => name === "species" || name === "chosen" || !OF_FISH.has(name));
}

/** What a kind of finding was asked beside the fish, by name. */
export function askedOf({ ask = [] }: Selection): Record<string, string> {
  return Object.fromEntries(ask.map((each) => [each.split(":", 1)[0]!, each.slice(each.indexOf(":") + 1)]));
}

/** The whole question as the server reads it. */
export function asQuery({ ask, ...selection }: Selection): Omit<Selection, "ask"> & Record<string, unknown> {
  return { ...asAddress(selection), ...askedOf({ ask }) };
}

/** The way back, from a question that was kept as the server reads it. */
export function fromQuery(query: Record<string, unknown>): Selection {
  const known = readSelection(query);
  const ask = Object.entries(query).flatMap(([name, value]) =>
    name in known || OF_FISH.has(name) || OF_ALL.has(name) ? [] : [`${name}:${value}`],
  );
  return readSelection({ ...query, ask });
}
const OF_ALL = new Set(["bin_mm", "over", "by", "k", "spread", "start"]);

/** The query of the address that gives the rows behind a finding. */
export function rowsQuery(selection: Selection): string {
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries(asAddress(fishOf(selection))))
    for (const each of [value].flat()) query.append(key, String(each));
  return query.toString();
}

/** Most characters of a selection that stands in an address by itself; servers refuse lines of some thousands. */
export const LONGEST_IN_ADDRESS = 1800;
