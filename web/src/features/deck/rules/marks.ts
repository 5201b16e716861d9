import { v5 as uuidOf } from "uuid";
import type { Schemas } from "@/api/client";
import { KINDS } from "@/ui/words/tag-kinds";
import tables from "./rule-tables.gen.json";

export type TagKind = Schemas["TagKindEnum"];
type DeckMarks = Schemas["DeckMarks"];
type MarkedFish = Schemas["MarkedFish"];

export interface CalledMark {
  kind: TagKind;
  number: string;
}

/** What a called number means here: a fish met before, a tag to be placed, or a mark nobody here gave out. */
export type Recognised = CalledMark &
  (
    | { meaning: "known"; fish: MarkedFish }
    | { meaning: "stock"; batch: string }
    /** Of another programme; `met` where the fish was met with it before. */
    | { meaning: "foreign"; met?: MarkedFish }
  );

export interface MarkTable {
  recognise: (mark: CalledMark) => Recognised;
  sites: Map<string, Schemas["KnownSite"]>;
}

/** Kinds whose number is read by eye or typed; that of a T-bar first, as nearly all are. */
const VISIBLE = (Object.keys(KINDS) as TagKind[]).filter((kind) => kind !== "pit").sort((a) => (a === "tbar" ? -1 : 0));

/** A table for looking numbers up while the reader still beeps. */
export function markTable({ stock, fish, sites }: DeckMarks): MarkTable {
  const carriers = new Map<string, MarkedFish>();
  const met = new Map<string, MarkedFish>();
  for (const each of fish) for (const mark of each.marks) (mark.unknown ? met : carriers).set(keyOf(mark), each);
  const batches = new Map(stock.map((tag) => [keyOf(tag), tag.batch]));
  return {
    sites: new Map(sites.map((site) => [site.id, site])),
    recognise: (called) => {
      // a number that is printed on a tag is called without its kind
      const alike = called.kind === "pit" ? [called] : VISIBLE.map((kind) => ({ ...called, kind }));
      for (const mark of alike) {
        const carrier = carriers.get(keyOf(mark));
        if (carrier) return { ...mark, meaning: "known", fish: carrier };
      }
      for (const mark of alike) {
        const batch = batches.get(keyOf(mark));
        if (batch !== undefined) return { ...mark, meaning: "stock", batch };
      }
      for (const mark of alike) {
        const before = met.get(keyOf(mark));
        if (before) return { ...mark, meaning: "foreign", met: before };
      }
      return { ...called, meaning: "foreign" };
    },
  };
}

/** How far two sites of the outing's water are apart, in a straight line, m. */
export function metresBetween(a: Schemas["KnownSite"], b: Schemas["KnownSite"]): number | undefined {
  // loosely compared: a deck that an older version kept on this tablet has none of them
  if (a.east_m == null || a.north_m == null || b.east_m == null || b.north_m == null) return undefined;
  return Math.hypot(a.east_m - b.east_m, a.north_m - b.north_m);
}

const keyOf = ({ kind, number }: CalledMark) => `${kind} ${number}`;

const COUNTRIES: ReadonlySet<number> = new Set(tables.marks.countries);

/** A PIT number as it is stored, from 15 digits with or without signs between them; null for anything else. */
export function readPit(text: string): string | null {
  const digits = text.replace(/[\s._-]/g, "");
  if (!/^\d{15}$/.test(digits)) return null;
  return COUNTRIES.has(Number(digits.slice(0, 3))) && Number(digits.slice(3)) <= tables.marks.most ? digits : null;
}

/**
 * What numbers read on one fish say together: those of two fish name neither, and a person must look. A fish with another
 * programme's tag alone is the one that was met with it before, or a new one whose key follows from the number.
 */
export function whose(
  read: readonly Recognised[],
  programme: string,
  species: string,
): { scanned: "" | "known" | "foreign"; fish: string | null } {
  if (!read.length) return { scanned: "", fish: null };
  const fish = new Set(read.flatMap((each) => (each.meaning === "known" ? [each.fish.id] : [])));
  if (fish.size) return { scanned: "known", fish: fish.size === 1 ? [...fish][0]! : null };
  const before = read.find((each) => each.meaning === "foreign" && each.met?.species === species);
  if (before?.meaning === "foreign" && before.met) return { scanned: "foreign", fish: before.met.id };
  return { scanned: "foreign", fish: unknownFishKey(read, programme, species) };
}

/** The key of a fish that is known by another programme's tag alone, the same on every tablet and on the server. */
function unknownFishKey(read: readonly CalledMark[], programme: string, species: string): string {
  const first = read.map(keyOf).sort()[0];
  return uuidOf(`${first} ${species}`, programme);
}

/** What a fish carries by what was done and read tonight: tags that were placed, and those of another programme. */
function carriedMarks({ placed, scans, scanned, fish }: Schemas["Capture"]): MarkedFish["marks"] {
  const read = scanned === "foreign" && fish ? scans.filter(({ result }) => result === "foreign") : [];
  return [
    ...placed.map(({ kind, number }) => ({ kind, number, unknown: false })),
    ...read.map(({ kind, number }) => ({ kind, number, unknown: true })),
  ];
}

/** The marks with those that tonight's placements used up, and the fish that carry them now. */
export function marksAfter(marks: DeckMarks, captures: Schemas["Capture"][], outing: string, now: string): DeckMarks {
  const marked = captures.filter((capture) => carriedMarks(capture).length > 0);
  if (!marked.length) return marks;
  const used = new Set(marked.flatMap((capture) => capture.placed.map(keyOf)));
  const known = new Set(marks.fish.flatMap((fish) => fish.marks.map(keyOf)));
  const fresh = marked
    .filter((capture) => !carriedMarks(capture).some((mark) => known.has(keyOf(mark))))
    .map((capture) => ({
      id: capture.fish ?? capture.id,
      species: capture.species,
      marks: carriedMarks(capture),
      times_met: 1,
      notes: [],
      last: {
        at: capture.device_time,
        outing,
        site: "",
        days: Math.max(0, (Date.parse(now) - Date.parse(capture.device_time)) / 86_400_000),
        length_mm: capture.length_mm,
        months: null,
      },
    }));
  return { ...marks, stock: marks.stock.filter((tag) => !used.has(keyOf(tag))), fish: [...marks.fish, ...fresh] };
}
