import { liveQuery } from "dexie";
import { offline } from "./database";
import { applyOperation } from "./kinds";
import { type Deck, heldBack, needs, type Operation } from "./operation";

/** Where what was done is kept until the server has it, with each outing's deck as last known. It knows nothing of kinds. */
export interface Outbox {
  /** What is queued of an outing, in the order in which it was done. */
  queued(outing: string): Promise<Operation[]>;
  /** Tells what is queued of an outing now and whenever it changes; gives how to stop. */
  watch(outing: string, told: (queued: Operation[]) => void): () => void;
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

export const outbox: Outbox = {
  queued: (outing) => offline.operations.where({ outing }).sortBy("seq"),

  watch(outing, told) {
    const watching = liveQuery(() => offline.operations.where({ outing }).sortBy("seq")).subscribe(told);
    return () => watching.unsubscribe();
  },

  async add(operation) {
    await offline.operations.add({ ...operation });
  },

  async change(operation, change) {
    await offline.operations.where({ id: operation.id }).modify(change as never);
  },

  giveUp: (operation) =>
    offline.transaction("rw", offline.operations, async () => {
      const queue = await offline.operations.where({ outing: operation.outing }).sortBy("seq");
      const gone = heldBack(queue, [operation.id]);
      const before = queue.filter((each) => gone.has(each.id) || namesOne(each, gone));
      await offline.operations.bulkDelete(before.filter(({ id }) => gone.has(id)).map(({ seq }) => seq!));
      // an entry that names many goes on without those that are gone
      for (const each of before)
        if (!gone.has(each.id)) await offline.operations.update(each.seq!, { row: without(each.row, gone) });
      const takeBack = async () => {
        await offline.operations.bulkPut(before);
      };
      return { gone: before.filter(({ id }) => gone.has(id)), takeBack };
    }),

  keptDeck: async (outing) => (await offline.decks.get(outing))?.deck,

  async keepDeck(deck) {
    await offline.decks.put({ outing: deck.outing.id, deck });
  },

  async next(person, most, aside) {
    const refused = await offline.operations.where({ person, state: "refused" }).sortBy("seq");
    const blocked = new Set([...refused.map(({ id }) => id), ...aside]);
    const batch: Operation[] = [];
    let held = false;
    for (let from = 0; ; from += CHUNK) {
      const waiting = await offline.operations.where({ person, state: "waiting" }).offset(from).limit(CHUNK).toArray();
      for (const each of waiting) {
        if (blocked.has(each.id) || needs(each).some((id) => blocked.has(id))) {
          blocked.add(each.id);
          held = true;
        } else if (!batch.length || each.programme === batch[0]!.programme) batch.push(each);
        if (batch.length === most) return { batch, held };
      }
      if (waiting.length < CHUNK) return { batch, held };
    }
  },

  settle: (done, refused) =>
    offline.transaction("rw", offline.operations, offline.decks, async () => {
      const outings = new Set(done.map(({ outing }) => outing));
      for (const outing of outings) {
        const kept = await offline.decks.get(outing);
        const own = done.filter((each) => each.outing === outing);
        if (kept) await offline.decks.put({ outing, deck: own.reduce(applyOperation, kept.deck) });
      }
      await offline.operations.bulkDelete(done.map(({ seq }) => seq!));
      for (const { operation, error } of refused)
        await offline.operations.update(operation.seq!, { state: "refused", error });
    }),
};

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
