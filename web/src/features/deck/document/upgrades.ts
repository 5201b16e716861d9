import type { Schemas } from "@/api/schemas";
import type { Operation } from "@/offline/operation";
import { gearOf } from "@/ui/words/gears";

type Deck = Schemas["Deck"];

/** A deck as it is kept now, from one of an earlier version: the outing can still be worked with no signal. */
export function upgradeDeck(deck: Deck, from: number): Deck {
  let now = deck;
  // kept before checklists and orders were
  if (from < 20) now = { ...now, checklists: now.checklists ?? [], orders: now.orders ?? null };
  if (from < 30) now = { ...now, captures: now.captures.map(withUnitsAndScans) };
  if (from < 50) now = { ...withGears(now), protocol: SHIPPED, captures: now.captures.map(withFate) };
  if (from < 60) now = { ...now, events: now.events ?? [], event_kinds: now.event_kinds ?? [] };
  if (from < 90) now = withZonesAndFields(now);
  if (from < 100) now = { ...now, events: now.events.map(withDetails) };
  return now;
}

/** What a fish that waits to be sent looks like on screen. */
export function upgradeEntry(operation: Operation, from: number): Operation {
  const shown = from < 100 && operation.kind === "event.edit" ? withDetails(operation.shown) : operation.shown;
  if (shown !== operation.shown) return { ...operation, shown };
  if (from >= 50 || !isCapture(shown)) return operation;
  return { ...operation, shown: withFate(from < 30 ? withUnitsAndScans(shown) : shown) };
}

/** The details of an event, and of an entry about one, were called `said`. */
export function withDetails<T>(old: T): T {
  if (typeof old !== "object" || !old || !("said" in old)) return old;
  const { said, ...rest } = old;
  return { ...rest, details: said } as T;
}

type Capture = Schemas["Capture"];
type OldCapture = Omit<Capture, "scans" | "length_unit" | "mass_unit"> & Partial<Capture> & { scan_text?: string };

const isCapture = (shown: unknown): shown is OldCapture => typeof shown === "object" && !!shown && "species" in shown;

/** What an outing goes by that was fetched before there were protocols. */
const SHIPPED: Deck["protocol"] = { number: 0, values: {} };
/** A deck from before outings had several gears and runs figures of their own. */
function withGears(deck: Deck): Deck {
  const { outing, runs, water_readings } = deck;
  const none = { distance_m: null, rods: null, nets: null, mesh_mm: null, hauls: null, direction: "" } as const;
  return {
    ...deck,
    outing: { ...outing, gears: outing.gears ?? [outing.gear], protocol: outing.protocol ?? null },
    runs: runs.map((run) => ({
      ...none,
      ...run,
      effort: run.effort ?? { value: null, unit: gearOf(run.gear).effort },
    })),
    water_readings: water_readings.map((each) => ({ ...each, more: each.more ?? {} })),
    readings: deck.readings ?? [],
    crew: deck.crew ?? [],
    sky: deck.sky ?? null,
  };
}

type OldReading = Schemas["Reading"] & {
  code?: string;
  choices: readonly (string | { value: string; label: string })[];
};

/** A deck from before a site's reach was called its zone, and before readings were declared as all fields are. */
function withZonesAndFields(deck: Deck): Deck {
  const zoned = <T extends { zone: string }>(old: T): T => {
    const { reach, ...row } = old as T & { reach?: string };
    return { ...row, zone: row.zone ?? reach ?? "" } as unknown as T;
  };
  const field = ({ code, ...old }: OldReading): Schemas["Reading"] => ({
    ...old,
    name: old.name ?? code ?? "",
    kind: old.kind ?? (old.choices.length ? "choice" : (old as { whole?: boolean }).whole ? "whole" : "number"),
    choices: old.choices.map((each) => (typeof each === "string" ? { value: each, label: each } : each)),
  });
  return {
    ...deck,
    sites: deck.sites.map(zoned),
    targets: deck.targets.map(zoned),
    readings: (deck.readings ?? []).map((each) => field(each as OldReading)),
  };
}

const OLD_FATES: Record<string, Capture["release"]> = { alive: "released", weak: "released" };

/** A fish from before fate and strength were two things. */
export function withFate(old: OldCapture): Capture {
  const { release } = old as Capture;
  const more = { strength: old.strength ?? null, reason: old.reason ?? "", taken_to: old.taken_to ?? "" };
  return { ...(old as Capture), ...more, release: OLD_FATES[release] ?? release };
}

/** A fish as it is kept now, from one before units stood beside texts and each number read was a row of its own. */
export function withUnitsAndScans(old: OldCapture): Capture {
  const { scan_text, ...fish } = old;
  const [kind, number] = scan_text?.split(" ") ?? [];
  const read = kind && number ? [{ kind, number, result: fish.scanned === "known" ? "known" : "foreign" }] : [];
  return {
    ...fish,
    length_unit: fish.length_unit ?? "",
    mass_unit: fish.mass_unit ?? "",
    scans: fish.scans ?? (read as Capture["scans"]),
  };
}
