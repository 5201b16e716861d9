import type { Schemas } from "@/api/client";
import { formatDay } from "@/ui/words/format";
import type { GearCode } from "@/ui/words/gears";

type Options = Schemas["SelectionOptions"];

/** What of a selection says which fish, as the server's `Selection` has it. */
export interface Filters {
  species?: string;
  first?: string;
  last?: string;
  water?: string[];
  zone?: string[];
  site?: string[];
  outing?: string[];
  gear?: GearCode[];
  sex?: ("f" | "m" | "u")[];
  estimated?: boolean;
  /** Of a fish caught again only the last capture. */
  once?: boolean;
}

export interface Item {
  value: string;
  label: string;
  group?: string;
}

/** One filter: how it is shown, what can be chosen, and how a choice is told. */
export type Filter = {
  name: keyof Filters;
  label: string;
  /** In words, where something is chosen. */
  words: (chosen: Filters, options: Options) => string;
} & (
  | { widget: "species" | "day" | "tick" }
  | {
      widget: "many";
      items: (options: Options, chosen: Filters) => Item[];
      /** What is let go where this changes, since it was chosen among what this held. */
      clears?: (keyof Filters)[];
    }
);

const watersOf = ({ waters }: Options, { water }: Filters) =>
  waters.filter(({ id }) => !water?.length || water.includes(id));
const sitesOf = (options: Options, chosen: Filters) => watersOf(options, chosen).flatMap(({ sites }) => sites);

/** Names of what is chosen where they are few, and else how many. */
function named(chosen: string[] | undefined, items: { id: string; name: string }[], many: string) {
  if (!chosen?.length) return "";
  if (chosen.length > 2) return `${chosen.length} ${many}`;
  return items
    .filter(({ id }) => chosen.includes(id))
    .map(({ name }) => name)
    .join(" and ");
}

const SEXES = { f: "female", m: "male", u: "unknown" };

/** Every filter, in the order in which they stand; the server says which of them a kind of finding reads. */
export const FILTERS: Filter[] = [
  {
    name: "species",
    label: "Species",
    widget: "species",
    words: ({ species }, options) => options.species.find(({ code }) => code === species)?.name ?? "all species",
  },
  {
    name: "first",
    label: "First day",
    widget: "day",
    words: ({ first, last }) => (first && !last ? `since ${formatDay(first)}` : ""),
  },
  {
    name: "last",
    label: "Last day",
    widget: "day",
    words: ({ first, last }) =>
      first && last ? `${formatDay(first)} to ${formatDay(last)}` : last ? `until ${formatDay(last)}` : "",
  },
  {
    name: "water",
    label: "Waters",
    widget: "many",
    items: ({ waters }) => waters.map(({ id, name }) => ({ value: id, label: name })),
    clears: ["site", "zone", "outing"],
    words: ({ water }, { waters }) => named(water, waters, "waters"),
  },
  {
    name: "zone",
    label: "Zones",
    widget: "many",
    items: (options, chosen) =>
      [...new Set(sitesOf(options, chosen).map(({ zone }) => zone))]
        .filter(Boolean)
        .map((zone) => ({ value: zone, label: zone })),
    words: ({ zone }) => zone?.join(" and ") ?? "",
  },
  {
    name: "site",
    label: "Sites",
    widget: "many",
    items: (options, chosen) =>
      sitesOf(options, chosen).map(({ id, name, zone }) => ({
        value: id,
        label: [name, zone].filter(Boolean).join(", "),
      })),
    words: ({ site }, options) => named(site, sitesOf(options, {}), "sites"),
  },
  {
    name: "outing",
    label: "Outings",
    widget: "many",
    items: ({ outings }, { water: waters, first, last }) =>
      outings
        .filter(
          ({ water, date }) =>
            (!waters?.length || waters.includes(water)) && (!first || date >= first) && (!last || date <= last),
        )
        .map(({ id, name, date }) => ({ value: id, label: `${formatDay(date)} ${name}`, group: date.slice(0, 4) })),
    words: ({ outing }, { outings }) => named(outing, outings, "outings"),
  },
  {
    name: "gear",
    label: "Gear",
    widget: "many",
    items: ({ gears }) => gears.map(({ code, label }) => ({ value: code, label })),
    words: ({ gear }, { gears }) =>
      gears
        .filter(({ code }) => gear?.includes(code as GearCode))
        .map(({ label }) => label.toLowerCase())
        .join(" and "),
  },
  {
    name: "sex",
    label: "Sex",
    widget: "many",
    items: () => Object.entries(SEXES).map(([value, label]) => ({ value, label })),
    words: ({ sex }) => sex?.map((each) => (each === "u" ? "sex unknown" : `${SEXES[each]}s`)).join(" and ") ?? "",
  },
  {
    name: "estimated",
    label: "Also sizes judged by eye",
    widget: "tick",
    words: ({ estimated }) => (estimated ? "also judged by eye" : ""),
  },
  {
    name: "once",
    label: "A fish caught again counts once",
    widget: "tick",
    words: ({ once }) => (once ? "a fish caught again counted once" : ""),
  },
];

/** How each filter reads what an address holds; what is none is left out. */
const READ: Record<Filter["widget"], (value: unknown) => unknown> = {
  species: (value) => (typeof value === "string" && value ? value : undefined),
  day: (value) => (typeof value === "string" && value ? value : undefined),
  tick: (value) => (value === true ? true : undefined),
  many: (value) => {
    const list = [value].flat().filter((each) => typeof each === "string" && each);
    return list.length ? list : undefined;
  },
};

export function readFilters(search: Record<string, unknown>): Filters {
  const read = FILTERS.map(({ name, widget }) => [name, READ[widget](search[name])] as const);
  return Object.fromEntries(read.filter(([, value]) => value !== undefined)) as Filters;
}

/** A choice of every filter but the species, emptied. */
export const NO_FILTERS = Object.fromEntries(
  FILTERS.filter(({ name }) => name !== "species").map(({ name, widget }) => [
    name,
    { many: [], day: "", tick: false, species: "" }[widget],
  ]),
) as Filters;

/** The selection in words: "walleye, Lower river, since 1 Jan 2024"; of what is not read nothing is said. */
export function inWords(selection: Filters, options: Options, read?: readonly string[]): string {
  const order: (keyof Filters)[] = ["species", "water", "zone", "site", "outing", "gear", "sex", "first", "last"];
  const place = (name: keyof Filters) => (order.includes(name) ? order.indexOf(name) : order.length);
  return FILTERS.filter(({ name }) => !read || read.includes(name))
    .toSorted((a, b) => place(a.name) - place(b.name))
    .map(({ words }) => words(selection, options))
    .filter(Boolean)
    .join(", ");
}
