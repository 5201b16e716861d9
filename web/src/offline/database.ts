import {
  type DBSchema,
  type IDBPDatabase,
  type IDBPObjectStore,
  type IDBPTransaction,
  openDB,
  type StoreNames,
} from "idb";
import type { Schemas } from "@/api/schemas";
import type { Operation, Scope } from "./operation";
import { scopeKind } from "./scopes";

/** A scope as the indexes of the browser's database name it. */
type ScopeKey = [kind: string, id: string];

export const keyOf = ({ kind, id }: Scope): ScopeKey => [kind, id];

/** What the browser keeps. */
export interface Kept extends DBSchema {
  /** Entries that are not in yet, in the order in which they were made. */
  operations: {
    key: number;
    value: Operation;
    indexes: { id: string; scope: ScopeKey; "[person+state]": [string, string] };
  };
  /** Entries that are in since the scope's document was kept: writing that anew for each would hold up the next call. */
  settled: { key: number; value: Operation; indexes: { scope: ScopeKey } };
  /** Each scope's document as last known. */
  documents: { key: ScopeKey; value: { scope: Scope; document: unknown } };
  /** Small things to remember. */
  remembered: { key: string; value: { key: string; value: unknown } };
}

type Upgrade = IDBPTransaction<Kept, StoreNames<Kept>[], "versionchange">;

let opening: Promise<IDBPDatabase<Kept>> | undefined;

/** The browser's database, opened once. */
export function database(): Promise<IDBPDatabase<Kept>> {
  opening ??= openDB<Kept>("nailwright", 100, {
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
    operations.createIndex("[person+state]", ["person", "state"]);
    db.createObjectStore("remembered", { keyPath: "key" });
  }
  if (from >= 10 && from < 70) {
    // who had taken over was remembered whoever signed in next
    const callers = IDBKeyRange.bound("caller ", "caller \uffff");
    await transaction.objectStore("remembered").delete(callers);
  }
  if (from < 40) db.createObjectStore("settled", { keyPath: "seq" });
  if (from < 80) await intoScopes(db, from, transaction);
  if (from < 10) return;
  for (let at = await transaction.objectStore("documents").openCursor(); at; at = await at.continue()) {
    const { scope, document } = at.value;
    await at.update({ scope, document: scopeKind(scope.kind)?.upgrade(document as never, from) ?? document });
  }
  for (const name of ["operations", "settled"] as const)
    for (let at = await transaction.objectStore(name).openCursor(); at; at = await at.continue())
      await at.update(scopeKind(at.value.scope.kind)?.upgradeEntry(at.value, from) ?? at.value);
}

/** An entry from before there was anything but outings. */
export type OfOuting = Omit<Operation, "scope"> & { outing: string };

export function intoScope({ outing, ...entry }: OfOuting): Operation {
  return { ...entry, scope: { kind: "outing", id: outing } };
}

/** Until version 70 an entry belonged to an outing, and each outing's deck was kept under its key. */
async function intoScopes(db: IDBPDatabase<Kept>, from: number, transaction: Upgrade): Promise<void> {
  for (const name of ["operations", "settled"] as const) {
    const store = transaction.objectStore(name);
    if (from >= (name === "settled" ? 40 : 10)) {
      (store as unknown as IDBPObjectStore).deleteIndex("outing");
      for (let at = await store.openCursor(); at; at = await at.continue())
        await at.update(intoScope(at.value as unknown as OfOuting));
    }
    store.createIndex("scope", ["scope.kind", "scope.id"]);
  }
  const documents = db.createObjectStore("documents", { keyPath: ["scope.kind", "scope.id"] });
  if (from < 10) return;
  const decks = (transaction as unknown as IDBPTransaction<unknown, ["decks"], "versionchange">).objectStore("decks");
  for (const { outing, deck } of await decks.getAll())
    await documents.put({ scope: { kind: "outing", id: outing as string }, document: deck });
  (db as unknown as IDBPDatabase).deleteObjectStore("decks");
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
