import { DURABLE, database } from "./database";
import { applyOperation } from "./kinds";
import { type Deck, heldBack, needs, type Operation } from "./operation";

/** Where what was done is kept until the server has it, with each outing's deck as last known. It knows nothing of kinds. */
export interface Outbox {
  /** What is queued of an outing, or of all, in the order in which it was done. */
  queued(outing?: string): Promise<Operation[]>;
  /** Tells what is queued of an outing, or of all, now and whenever it changes, in any tab; gives how to stop. */
  watch(outing: string | undefined, told: (queued: Operation[]) => void): () => void;
  add(operation: Operation): Promise<void>;
  change(operation: Operation, change: Partial<Operation>): Promise<void>;
  /** Gives up an entry and all that waits for it; gives what was given up, and how to take that back. */
  giveUp(operation: Operation): Promise<{ gone: Operation[]; takeBack: () => Promise<void> }>;
  keptDeck(outing: string): Promise<Deck | undefined>;
  keepDeck(deck: Deck): Promise<void>;
  /** The next entries to send: of one person and one programme, none that must wait for another or is set aside. */
  next(person: string, most: number, aside: ReadonlySet<string>): Promise<{ batch: Operation[]; held: boolean }>;
  /** Takes entries that are in out of the queue and into the kept deck, in one step. */
  settle(done: Operation[], refused: { operation: Operation; error: Operation["error"] }[]): Promise<void>;
}

const CHUNK = 500;
/** With more entries settled than this the kept deck is written anew, so that opening it stays quick. */
const MOST_SETTLED = 300;

export const outbox: Outbox = {
  async queued(outing) {
    const db = await database();
    return outing === undefined ? db.getAll("operations") : db.getAllFromIndex("operations", "outing", outing);
  },

  watch(outing, told) {
    let stopped = false;
    const tell = () =>
      outbox.queued(outing).then(
        (queued) => stopped || told(queued),
        (failure: unknown) => console.error("the queue could not be read", failure),
      );
    watching.add(tell);
    void tell();
    return () => {
      stopped = true;
      watching.delete(tell);
    };
  },

  async add(operation) {
    const transaction = (await database()).transaction("operations", "readwrite", DURABLE);
    await Promise.all([transaction.store.add({ ...operation }), transaction.done]);
    changed();
  },

  async change(operation, change) {
    const transaction = (await database()).transaction("operations", "readwrite", DURABLE);
    const kept = await transaction.store.index("id").get(operation.id);
    if (kept) await transaction.store.put({ ...kept, ...change });
    await transaction.done;
    changed();
  },

  async giveUp(operation) {
    const transaction = (await database()).transaction("operations", "readwrite", DURABLE);
    const queue = await transaction.store.index("outing").getAll(operation.outing);
    const gone = heldBack(queue, [operation.id]);
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
      changed();
    };
    return { gone: before.filter(({ id }) => gone.has(id)), takeBack };
  },

  async keptDeck(outing) {
    const transaction = (await database()).transaction(["decks", "settled"]);
    const kept = await transaction.objectStore("decks").get(outing);
    const settled = await transaction.objectStore("settled").index("outing").getAll(outing);
    return kept && settled.reduce(applyOperation, kept.deck);
  },

  async keepDeck(deck) {
    const transaction = (await database()).transaction(["decks", "settled"], "readwrite", DURABLE);
    await transaction.objectStore("decks").put({ outing: deck.outing.id, deck });
    const settled = transaction.objectStore("settled");
    for (const seq of await settled.index("outing").getAllKeys(deck.outing.id)) await settled.delete(seq);
    await transaction.done;
  },

  async next(person, most, aside) {
    const index = (await database()).transaction("operations").store.index("[person+state]");
    const refused = await index.getAll([person, "refused"]);
    const blocked = new Set([...refused.map(({ id }) => id), ...aside]);
    let waiting = await index.getAll([person, "waiting"], CHUNK);
    const batch: Operation[] = [];
    let heavy: Operation | undefined;
    let held = false;
    for (let place = 0; place < waiting.length && batch.length < most; place++) {
      const each = waiting[place]!;
      if (blocked.has(each.id) || needs(each).some((id) => blocked.has(id))) {
        blocked.add(each.id);
        held = true;
      } else if (each.heavy) heavy ??= each;
      else if (!batch.length || each.programme === batch[0]!.programme) batch.push(each);
      // nearly always the first few are enough
      if (place + 1 === CHUNK && waiting.length === CHUNK) waiting = await index.getAll([person, "waiting"]);
    }
    return { batch: batch.length || !heavy ? batch : [heavy], held };
  },

  async settle(done, refused) {
    const transaction = (await database()).transaction(["operations", "settled", "decks"], "readwrite", DURABLE);
    const operations = transaction.objectStore("operations");
    const settled = transaction.objectStore("settled");
    const decks = transaction.objectStore("decks");
    for (const each of done) {
      await operations.delete(each.seq!);
      await settled.put(each.heavy ? { ...each, row: withoutLargeParts(each.row) } : each);
    }
    for (const { operation, error } of refused) {
      const kept = await operations.get(operation.seq!);
      if (kept) await operations.put({ ...kept, state: "refused", error });
    }
    for (const outing of new Set(done.map((each) => each.outing))) {
      if ((await settled.index("outing").count(outing)) <= MOST_SETTLED) continue;
      const kept = await decks.get(outing);
      const since = await settled.index("outing").getAll(outing);
      if (kept) await decks.put({ outing, deck: since.reduce(applyOperation, kept.deck) });
      for (const { seq } of since) await settled.delete(seq!);
    }
    await transaction.done;
    changed();
  },
};

const watching = new Set<() => void>();
/** Tells the other tabs of this browser; what one posts there it does not hear itself. */
const channel = new BroadcastChannel("nailwright-queue");
channel.onmessage = () => tellAll();

function tellAll(): void {
  for (const tell of watching) tell();
}

function changed(): void {
  channel.postMessage("changed");
  tellAll();
}

/** What is shown of an entry that is in: the server has the rest. */
const withoutLargeParts = (row: Operation["row"]): Operation["row"] =>
  Object.fromEntries(Object.entries(row).filter(([, value]) => typeof value !== "string" || value.length < 10_000));

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
