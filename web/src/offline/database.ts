import { type DBSchema, type IDBPDatabase, type IDBPTransaction, openDB, type StoreNames } from "idb";
import type { Schemas } from "@/api/schemas";
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
  opening ??= openDB<Kept>("nailwright", 40, {
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
  if (from < 40) db.createObjectStore("settled", { keyPath: "seq" }).createIndex("outing", "outing");
  if (from < 10) return;
  for (let at = await transaction.objectStore("decks").openCursor(); at; at = await at.continue()) {
    let { deck } = at.value;
    // kept before checklists and orders were: the outing can still be worked with no signal
    if (from < 20) deck = { ...deck, checklists: deck.checklists ?? [], orders: deck.orders ?? null };
    if (from < 30) deck = { ...deck, captures: deck.captures.map(withUnitsAndScans) };
    await at.update({ ...at.value, deck });
  }
  if (from >= 30) return;
  for (let at = await transaction.objectStore("operations").openCursor(); at; at = await at.continue()) {
    const { shown } = at.value;
    if (isCapture(shown)) await at.update({ ...at.value, shown: withUnitsAndScans(shown) });
  }
}

export async function remember(key: string, value: unknown): Promise<void> {
  await (await database()).put("remembered", { key, value });
}

export async function recall<T>(key: string): Promise<T | undefined> {
  return (await (await database()).get("remembered", key))?.value as T | undefined;
}

type Capture = Schemas["Capture"];
type OldCapture = Omit<Capture, "scans" | "length_unit" | "mass_unit"> & Partial<Capture> & { scan_text?: string };

const isCapture = (shown: unknown): shown is OldCapture => typeof shown === "object" && !!shown && "species" in shown;

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
