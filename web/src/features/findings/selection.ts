import type { Schemas } from "@/api/client";
import { formatDay } from "@/ui/format";
import type { GearCode } from "@/ui/gears";

/** A selection as it stands in the address, so that whoever gets the address sees the same finding. */
export interface Selection {
  species?: string;
  outing?: string[];
  water?: string[];
  site?: string[];
  reach?: string[];
  gear?: GearCode[];
  sex?: ("f" | "m" | "u")[];
  first?: string;
  last?: string;
  estimated?: boolean;
  /** Of a fish caught again only the last capture. */
  once?: boolean;
  /** What intervals are over, where it is not sites. */
  over?: "fish";
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

export const GROUPINGS = ["year", "season", "water", "reach", "site", "gear", "sex"] as const;
export type Grouping = (typeof GROUPINGS)[number];
export const SPREADS = { free: "each its own", equal_sd: "equal SD", constant_cv: "constant CV" } as const;
export type Spread = keyof typeof SPREADS;

const ASKED = /^[a-z_]{1,20}:.{1,40}$/;
const LISTS = ["outing", "water", "site", "reach", "gear", "sex"] as const;

/** Takes from an address what is a selection and leaves the rest. */
export function readSelection(search: Record<string, unknown>): Selection {
  const selection: Record<string, unknown> = {};
  for (const key of ["species", "first", "last", "chosen"])
    if (typeof search[key] === "string" && search[key]) selection[key] = search[key];
  for (const key of LISTS) {
    const list = [search[key]].flat().filter((each) => typeof each === "string" && each);
    if (list.length) selection[key] = list;
  }
  if (search.estimated === true) selection.estimated = true;
  if (search.once === true) selection.once = true;
  if (search.over === "fish") selection.over = "fish";
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

const OF_FISH = new Set<string>(["species", ...LISTS, "first", "last", "estimated", "once", "chosen"]);

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

/** The selection in words: "walleye, Lower river, since 1 Jan 2024". */
export function inWords(selection: Selection, options: Schemas["SelectionOptions"]): string {
  const named = (chosen: string[] | undefined, items: { id: string; name: string }[], many: string) => {
    if (!chosen?.length) return "";
    const names = items.filter(({ id }) => chosen.includes(id)).map(({ name }) => name);
    return chosen.length <= 2 ? names.join(" and ") : `${chosen.length} ${many}`;
  };
  const { first, last } = selection;
  const days =
    first && last
      ? `${formatDay(first)} to ${formatDay(last)}`
      : first
        ? `since ${formatDay(first)}`
        : last
          ? `until ${formatDay(last)}`
          : "";
  const sexes = { f: "females", m: "males", u: "sex unknown" };
  return [
    options.species.find(({ code }) => code === selection.species)?.name ?? "all species",
    named(selection.water, options.waters, "waters"),
    selection.reach?.join(" and ") ?? "",
    named(
      selection.site,
      options.waters.flatMap(({ sites }) => sites),
      "sites",
    ),
    named(selection.outing, options.outings, "outings"),
    options.gears
      .filter(({ code }) => selection.gear?.includes(code as never))
      .map(({ label }) => label.toLowerCase())
      .join(" and "),
    selection.sex?.map((each) => sexes[each]).join(" and ") ?? "",
    days,
    selection.estimated ? "also judged by eye" : "",
    selection.once ? "a fish caught again counted once" : "",
  ]
    .filter(Boolean)
    .join(", ");
}
