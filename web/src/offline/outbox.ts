import { DURABLE, database, keyOf } from "./database";
import { applyOperation } from "./kinds";
import { heldBack, needs, type Operation, type Scope } from "./operation";
import { sameScope } from "./scopes";

/**
 * Where what was done is kept until the server has it, with each scope's document as last known. It knows nothing of kinds.
 *
 * Where the disk has no room, an entry is `unsaved`: in this page's memory alone, sent and carried like all others, and written as
 * soon as there is room again.
 */
export interface Outbox {
  /** What is queued of a scope, or of all, in the order in which it was done. */
  queued(scope?: Scope): Promise<Operation[]>;
  /**
   * Tells what is queued of a scope, or of all, now and whenever it changes, in any tab; gives how to stop. An entry is among it from
   * the moment at which it is added, before the disk has it: nothing says that all is sent meanwhile.
   */
  watch(scope: Scope | undefined, told: (queued: Operation[]) => void): () => void;
  /** Resolves when it is on the disk, or unsaved; what is heavy is never unsaved: it rejects. */
  add(operation: Operation): Promise<void>;
  change(operation: Operation, change: Partial<Operation>): Promise<void>;
  /** Gives up an entry and all that waits for it; gives what was given up, and how to take that back. */
  giveUp(operation: Operation): Promise<{ gone: Operation[]; takeBack: () => Promise<void> }>;
  /** A scope's document as this device last knew it, with what went in since. */
  kept<Document>(scope: Scope): Promise<Document | undefined>;
  /**
   * Keeps a scope's document as `make` gives it of what is queued at that very moment, and resolves with that: what settles
   * between the two would else be in neither.
   */
  keep<Document>(scope: Scope, make: (queued: Operation[]) => Document): Promise<Operation[]>;
  /**
   * The next entries to send: of one person and one programme, none that must wait for another or is set aside. `held`: some wait
   * for one that the server refused.
   */
  next(person: string, most: number, aside: ReadonlySet<string>): Promise<{ batch: Operation[]; held: boolean }>;
  /** Takes entries that are in out of the queue and into the kept document, in one step. */
  settle(done: Operation[], refused: { operation: Operation; error: Operation["error"] }[]): Promise<void>;
}

const CHUNK = 500;
/** With more entries settled than this the kept document is written anew, so that opening it stays quick. */
const MOST_SETTLED = 300;

export const outbox: Outbox = {
  async queued(scope) {
    const db = await database();
    const written = await (scope === undefined
      ? db.getAll("operations")
      : db.getAllFromIndex("operations", "scope", keyOf(scope)));
    return [...written, ...unsavedOf(scope)];
  },

  watch(scope, told) {
    let stopped = false;
    let last: Operation[] = [];
    const show = (queued: Operation[], coming: readonly Operation[]) => {
      const known = new Set(queued.map(({ id }) => id));
      last = [...queued, ...coming.filter((each) => isOf(each, scope) && !known.has(each.id))];
      if (!stopped) told(last);
    };
    const watcher: Watcher = {
      changed: () => {
        const coming = adding; // of before the reading: what reaches the disk during it is in one of the two
        outbox.queued(scope).then(
          (queued) => show(queued, [...coming, ...adding.filter((each) => !coming.includes(each))]),
          (failure: unknown) => console.error("the queue could not be read", failure),
        );
      },
      added: (operation) => isOf(operation, scope) && show(last, [operation]),
    };
    watching.add(watcher);
    watcher.changed();
    return () => {
      stopped = true;
      watching.delete(watcher);
    };
  },

  async add(operation) {
    adding = [...adding, operation];
    for (const each of watching) each.added(operation);
    try {
      await inTurn(async () => {
        await writeLoose();
        try {
          if (unsaved.length) throw new Error("there is no room"); // what came before it goes first
          await write(operation);
        } catch (failure) {
          if (operation.heavy || NO_MATTER_OF_ROOM.has((failure as Error).name)) throw failure;
          if (!unsaved.length) setTimeout(tryAgain, AGAIN_MS);
          unsaved = [...unsaved, { ...operation, unsaved: true }];
        }
      });
    } finally {
      adding = adding.filter((each) => each !== operation);
      changed();
    }
  },

  async change(operation, change) {
    // in turn with the writing of what is unsaved: else the entry could reach the disk as it was before
    await inTurn(async () => {
      unsaved = unsaved.map((each) => (each.id === operation.id ? { ...each, ...change } : each));
      const transaction = (await database()).transaction("operations", "readwrite", DURABLE);
      const kept = await transaction.store.index("id").get(operation.id);
      if (kept) await transaction.store.put({ ...kept, ...change });
      await transaction.done;
    });
    changed();
  },

  async giveUp(operation) {
    const transaction = (await database()).transaction("operations", "readwrite", DURABLE);
    const queue = await transaction.store.index("scope").getAll(keyOf(operation.scope));
    const unsavedBefore = unsaved;
    const gone = heldBack([...queue, ...unsaved], [operation.id]);
    unsaved = unsaved.filter(({ id }) => !gone.has(id)).map((each) => ({ ...each, row: without(each.row, gone) }));
    const before = queue.filter((each) => gone.has(each.id) || namesOne(each, gone));
    // an entry that names many goes on without those that are gone
    for (const each of before)
      if (gone.has(each.id)) await transaction.store.delete(each.seq!);
      else await transaction.store.put({ ...each, row: without(each.row, gone) });
    await transaction.done;
    changed();
    const takeBack = async () => {
      const again = (await database()).transaction("operations", "readwrite", DURABLE);
      await Promise.all([...before.map((each) => again.store.put(each)), again.done]);
      unsaved = [...unsavedBefore, ...unsaved.filter(({ id }) => !unsavedBefore.some((each) => each.id === id))];
      changed();
    };
    return { gone: [...before, ...unsavedBefore].filter(({ id }) => gone.has(id)), takeBack };
  },

  async kept<Document>(scope: Scope) {
    const transaction = (await database()).transaction(["documents", "settled"]);
    const kept = await transaction.objectStore("documents").get(keyOf(scope));
    const settled = await transaction.objectStore("settled").index("scope").getAll(keyOf(scope));
    return kept && settled.reduce(applyOperation<Document>, kept.document as Document);
  },

  async keep(scope, make) {
    const transaction = (await database()).transaction(["operations", "settled", "documents"], "readwrite", DURABLE);
    const written = await transaction.objectStore("operations").index("scope").getAll(keyOf(scope));
    const queued = [...written, ...unsavedOf(scope)];
    await transaction.objectStore("documents").put({ scope, document: make(queued) });
    const settled = transaction.objectStore("settled");
    for (const seq of await settled.index("scope").getAllKeys(keyOf(scope))) await settled.delete(seq);
    await transaction.done;
    return queued;
  },

  async next(person, most, aside) {
    const index = (await database()).transaction("operations").store.index("[person+state]");
    const mine = unsaved.filter((each) => each.person === person);
    const refused = [...(await index.getAll([person, "refused"])), ...mine.filter(({ state }) => state === "refused")];
    const blocked = new Set([...refused.map(({ id }) => id), ...aside]);
    const byRefused = new Set(refused.map(({ id }) => id));
    const looseOnes = mine.filter(({ state }) => state === "waiting");
    const first = await index.getAll([person, "waiting"], CHUNK);
    let waiting = first.length < CHUNK ? [...first, ...looseOnes] : first;
    const batch: Operation[] = [];
    let heavy: Operation | undefined;
    let held = false;
    for (let place = 0; place < waiting.length && batch.length < most; place++) {
      const each = waiting[place]!;
      if (blocked.has(each.id) || needs(each).some((id) => blocked.has(id))) {
        blocked.add(each.id);
        if (needs(each).some((id) => byRefused.has(id))) {
          byRefused.add(each.id);
          held = true;
        }
      } else if (each.heavy) heavy ??= each;
      else if (!batch.length || each.programme === batch[0]!.programme) batch.push(each);
      // nearly always the first few are enough
      if (place + 1 === CHUNK && waiting === first)
        waiting = [...(await index.getAll([person, "waiting"])), ...looseOnes];
    }
    return { batch: batch.length || !heavy ? batch : [heavy], held };
  },

  async settle(done, refused) {
    const transaction = (await database()).transaction(["operations", "settled", "documents"], "readwrite", DURABLE);
    const operations = transaction.objectStore("operations");
    const settled = transaction.objectStore("settled");
    const documents = transaction.objectStore("documents");
    for (const each of done) {
      if (each.seq === undefined) continue; // unsaved: there is no room to note that it is in either
      await operations.delete(each.seq);
      await settled.put(each.heavy ? { ...each, row: withoutLargeParts(each.row) } : each);
    }
    for (const { operation, error } of refused) {
      const kept = operation.seq === undefined ? undefined : await operations.get(operation.seq);
      if (kept) await operations.put({ ...kept, state: "refused", error });
    }
    const scopes = new Map(done.map(({ scope }) => [keyOf(scope).join(" "), scope]));
    for (const scope of scopes.values()) {
      const key = keyOf(scope);
      if ((await settled.index("scope").count(key)) <= MOST_SETTLED) continue;
      const kept = await documents.get(key);
      const since = await settled.index("scope").getAll(key);
      if (kept) await documents.put({ scope, document: since.reduce(applyOperation, kept.document) });
      for (const { seq } of since) await settled.delete(seq!);
    }
    await transaction.done;
    const ids = new Set(done.map(({ id }) => id));
    const errors = new Map(refused.map(({ operation, error }) => [operation.id, error]));
    unsaved = unsaved
      .filter(({ id }) => !ids.has(id))
      .map((each) => (errors.has(each.id) ? { ...each, state: "refused", error: errors.get(each.id) } : each));
    changed();
  },
};

/** Entries that the disk had no room for, in the order in which they were made. */
let unsaved: readonly Operation[] = [];
const isOf = (operation: Operation, scope?: Scope) => !scope || sameScope(operation.scope, scope);
const unsavedOf = (scope?: Scope) => unsaved.filter((each) => isOf(each, scope));
/** Entries that are on their way to the disk. */
let adding: readonly Operation[] = [];
/** After so long it is tried again whether there is room, ms. */
const AGAIN_MS = 5000;
/** Failures that more room would not mend. */
const NO_MATTER_OF_ROOM = new Set(["ConstraintError", "DataError", "DataCloneError"]);

async function write({ unsaved: _, ...operation }: Operation): Promise<void> {
  const put = async () => {
    const transaction = (await database()).transaction("operations", "readwrite", DURABLE);
    await Promise.all([transaction.store.add(operation), transaction.done]);
  };
  await put().catch(async (failure: Error) => {
    if (NO_MATTER_OF_ROOM.has(failure.name)) throw failure;
    await makeRoom(operation.scope);
    await put();
  });
}

/** Documents of other scopes in which nothing waits are let go: the server has them. */
async function makeRoom(scope: Scope): Promise<void> {
  const transaction = (await database()).transaction(["operations", "settled", "documents"], "readwrite", DURABLE);
  const [documents, settled] = [transaction.objectStore("documents"), transaction.objectStore("settled")];
  const own = keyOf(scope).join(" ");
  for (const other of await documents.getAllKeys()) {
    if (other.join(" ") === own || (await transaction.objectStore("operations").index("scope").count(other))) continue;
    await documents.delete(other);
    for (const seq of await settled.index("scope").getAllKeys(other)) await settled.delete(seq);
  }
  await transaction.done;
}

async function writeLoose(): Promise<void> {
  while (unsaved.length) {
    const first = unsaved[0]!;
    const written = await write(first).then(
      () => true,
      (failure: Error) => failure.name === "ConstraintError", // it is there already
    );
    if (!written) return;
    unsaved = unsaved.filter(({ id }) => id !== first.id);
  }
}

/** For as long as something is unsaved. */
async function tryAgain(): Promise<void> {
  const before = unsaved.length;
  await inTurn(writeLoose);
  if (unsaved.length < before) changed();
  if (unsaved.length) setTimeout(tryAgain, AGAIN_MS);
}

let turn: Promise<unknown> = Promise.resolve();
/** One writer after the other, so that what is unsaved is written once and in its order. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const done = turn.then(work);
  turn = done.catch(() => undefined);
  return done;
}

interface Watcher {
  changed: () => void;
  added: (operation: Operation) => void;
}
const watching = new Set<Watcher>();
/** Tells the other tabs of this browser; what one posts there it does not hear itself. */
const channel = new BroadcastChannel("nailwright-queue");
channel.onmessage = () => tellAll();

function tellAll(): void {
  for (const each of watching) each.changed();
}

function changed(): void {
  channel.postMessage("changed");
  tellAll();
}

/** What is shown of an entry that is in: the server has the rest. */
const withoutLargeParts = (row: Operation["row"]): Operation["row"] =>
  Object.fromEntries(
    Object.entries(row).filter(
      ([, value]) => !(value instanceof Blob) && (typeof value !== "string" || value.length < 10_000),
    ),
  );

const namesOne = ({ row }: Operation, gone: ReadonlySet<string>) =>
  Object.values(row).some((value) => Array.isArray(value) && value.some((each) => gone.has(each)));

function without(row: Operation["row"], gone: ReadonlySet<string>): Operation["row"] {
  return Object.fromEntries(
    Object.entries(row).map(([name, value]) => [
      name,
      Array.isArray(value) ? value.filter((each) => !gone.has(each)) : value,
    ]),
  );
}
