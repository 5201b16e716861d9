import { type DBSchema, type IDBPDatabase, type IDBPTransaction, openDB, type StoreNames } from "idb";
import type { Schemas } from "@/api/schemas";
import { gearOf } from "@/ui/gears";
import type { Deck, Operation } from "./operation";

export interface KeptDeck {
  outing: string;
  deck: Deck;
}

/** What the browser keeps. */
export interface Kept extends DBSchema {
  /** Entries that are not in yet, in the order in which they were made. */
  operations: {
    key: number;
    value: Operation;
    indexes: { id: string; outing: string; "[person+state]": [string, string] };
  };
  /** Entries that are in since the outing's deck was kept: writing that anew for each would hold up the next call. */
  settled: { key: number; value: Operation; indexes: { outing: string } };
  /** Each outing's deck as last known. */
  decks: { key: string; value: KeptDeck };
  /** Small things to remember. */
  remembered: { key: string; value: { key: string; value: unknown } };
}

type Upgrade = IDBPTransaction<Kept, StoreNames<Kept>[], "versionchange">;

let opening: Promise<IDBPDatabase<Kept>> | undefined;

/** The browser's database, opened once. */
export function database(): Promise<IDBPDatabase<Kept>> {
  opening ??= openDB<Kept>("nailwright", 70, {
    upgrade: (db, from, _to, transaction) => upgrade(db, from, transaction),
    // a newer version of this application in another tab: let it change the database, and open it again when needed
    blocking: (_from, _to, event) => {
      (event.target as IDBDatabase).close();
      opening = undefined;
    },
    terminated: () => {
      opening = undefined;
    },
  }).catch((failure: unknown) => {
    opening = undefined;
    throw failure;
  });
  return opening;
}

/** strict: a fish counts as kept only when it is on the disk, not when it is on its way there */
export const DURABLE = { durability: "strict" } as const;

async function upgrade(db: IDBPDatabase<Kept>, from: number, transaction: Upgrade): Promise<void> {
  if (from < 10) {
    const operations = db.createObjectStore("operations", { keyPath: "seq", autoIncrement: true });
    operations.createIndex("id", "id", { unique: true });
    operations.createIndex("outing", "outing");
    operations.createIndex("[person+state]", ["person", "state"]);
    db.createObjectStore("decks", { keyPath: "outing" });
    db.createObjectStore("remembered", { keyPath: "key" });
  }
  if (from >= 10 && from < 70) {
    // who had taken over was remembered whoever signed in next
    const callers = IDBKeyRange.bound("caller ", "caller \uffff");
    await transaction.objectStore("remembered").delete(callers);
  }
  if (from < 40) db.createObjectStore("settled", { keyPath: "seq" }).createIndex("outing", "outing");
  if (from < 10) return;
  for (let at = await transaction.objectStore("decks").openCursor(); at; at = await at.continue()) {
    let { deck } = at.value;
    // kept before checklists and orders were: the outing can still be worked with no signal
    if (from < 20) deck = { ...deck, checklists: deck.checklists ?? [], orders: deck.orders ?? null };
    if (from < 30) deck = { ...deck, captures: deck.captures.map(withUnitsAndScans) };
    if (from < 50) deck = { ...withGears(deck), protocol: SHIPPED, captures: deck.captures.map(withFate) };
    if (from < 60) deck = { ...deck, events: deck.events ?? [], event_kinds: deck.event_kinds ?? [] };
    await at.update({ ...at.value, deck });
  }
  // what waits to be sent is sent as it was made: its receipt may be on the server already
  if (from >= 50) return;
  for (let at = await transaction.objectStore("operations").openCursor(); at; at = await at.continue()) {
    const { shown } = at.value;
    if (!isCapture(shown)) continue;
    await at.update({ ...at.value, shown: withFate(from < 30 ? withUnitsAndScans(shown) : shown) });
  }
}

export async function remember(key: string, value: unknown): Promise<void> {
  await (await database()).put("remembered", { key, value });
}

export async function recall<T>(key: string): Promise<T | undefined> {
  return (await (await database()).get("remembered", key))?.value as T | undefined;
}

const OF_SIGN_IN = "sign-in ";

/** For as long as the sign-in lasts that this device has now. */
export function rememberForSignIn(key: string, value: unknown): Promise<void> {
  return remember(OF_SIGN_IN + key, value);
}

export function recallOfSignIn<T>(key: string): Promise<T | undefined> {
  return recall<T>(OF_SIGN_IN + key);
}

/** Who is signed in. Where that is somebody else, or nobody, what was remembered for the sign-in before goes in the same step. */
export async function rememberSignIn(session: Pick<Schemas["Session"], "person">): Promise<void> {
  const transaction = (await database()).transaction("remembered", "readwrite", DURABLE);
  const before = (await transaction.store.get("session"))?.value as typeof session | undefined;
  const same = before?.person?.id === session.person?.id;
  const of = IDBKeyRange.bound(OF_SIGN_IN, `${OF_SIGN_IN}\uffff`);
  const keys = same ? [] : await transaction.store.getAllKeys(of);
  await Promise.all([
    ...keys.map((key) => transaction.store.delete(key)),
    transaction.store.put({ key: "session", value: session }),
    transaction.done,
  ]);
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
