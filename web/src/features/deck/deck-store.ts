import { liveQuery, type Subscription } from "dexie";
import { v7 as uuidv7 } from "uuid";
import { answer, api } from "@/api/client";
import { applyOperation, type ShownOperation } from "@/offline/apply-operation";
import { type Deck, type OperationKind, offline } from "@/offline/database";
import { sender } from "@/offline/sender";

export interface DeckView {
  deck: Deck;
  /** Keys of rows whose last operation has not reached the server. */
  unsent: ReadonlySet<string>;
  refused: ShownOperation[];
  /** Set where something could not be kept on this device: the one case in which the recorder must stop. */
  trouble: string | null;
}

interface NewOperation {
  id?: string;
  kind: OperationKind;
  row: Record<string, unknown>;
  shown?: ShownOperation["shown"];
  reason?: string;
}

/**
 * One outing on this tablet: the deck as the server last gave it, with everything done since.
 *
 * What is done shows at once and is written to the browser's database in the same breath; the sender takes it from
 * there. React reads it through `subscribe` and `view`.
 */
export class DeckStore {
  view: DeckView;
  private operations: ShownOperation[] = [];
  private listeners = new Set<() => void>();
  private writes: Promise<unknown> = Promise.resolve();
  private watch: Subscription;

  private constructor(
    private base: Deck,
    pending: ShownOperation[],
    private person: string,
  ) {
    this.operations = pending;
    this.view = { deck: pending.reduce(applyOperation, base), unsent: new Set(), refused: [], trouble: null };
    this.mark(pending);
    this.watch = liveQuery(() => offline.operations.where({ outing: base.outing.id }).toArray()).subscribe((queued) =>
      this.mark(queued),
    );
  }

  /** The outing from the server, or as last known where there is no answer. */
  static async open(outing: string, person: string): Promise<DeckStore> {
    const pendingBefore = await offline.operations.where({ outing }).sortBy("seq");
    const kept = await offline.decks.get(outing);
    const deck = await fetchDeck(outing).catch((failure) => {
      if (kept && failure instanceof TypeError) return kept.deck;
      throw failure;
    });
    if (deck !== kept?.deck) await offline.decks.put({ outing, deck });
    return new DeckStore(deck, pendingBefore, person);
  }

  close(): void {
    this.watch.unsubscribe();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Does something: shown at once, kept on the disk, sent when possible. Resolves when it is on the disk. */
  add({ id = uuidv7(), kind, row, shown, reason }: NewOperation): Promise<void> {
    const operation: ShownOperation = {
      id,
      person: this.person,
      programme: this.base.outing.programme,
      outing: this.base.outing.id,
      kind,
      device_time: new Date().toISOString(),
      row,
      shown,
      reason,
      state: "waiting",
    };
    this.operations.push(operation);
    this.set({
      deck: applyOperation(this.view.deck, operation),
      unsent: new Set(this.view.unsent).add(keyOf(operation)),
    });
    const write = this.writes.then(() => offline.operations.add({ ...operation }));
    // one after another, so that the order on the disk is the order in which things were done
    this.writes = write.catch(() => undefined);
    return write.then(
      () => sender.wake(),
      (failure: Error) => {
        this.operations = this.operations.filter((each) => each.id !== id);
        this.set({
          deck: this.operations.reduce(applyOperation, this.base),
          trouble: `This device could not keep the last entry (${failure.message}). Write it on paper and free some space.`,
        });
        throw failure;
      },
    );
  }

  /** Sends a refused operation again, for instance after the outing was opened again. */
  async resend(operation: ShownOperation): Promise<void> {
    await offline.operations.update(operation.seq!, { state: "waiting", error: undefined });
    sender.wake();
  }

  /** Gives up a refused operation; returns how to take that back. */
  async discard(operation: ShownOperation): Promise<() => Promise<void>> {
    await offline.operations.delete(operation.seq!);
    await this.reload();
    return async () => {
      await offline.operations.put(operation);
      await this.reload();
    };
  }

  /** Reads everything again, from the server where it answers. */
  async reload(): Promise<void> {
    await this.writes;
    const deck = await fetchDeck(this.base.outing.id).catch(() => null);
    if (deck) {
      this.base = deck;
      await offline.decks.put({ outing: deck.outing.id, deck });
      this.operations = await offline.operations.where({ outing: deck.outing.id }).sortBy("seq");
    } else {
      const queued = new Set(
        (await offline.operations.where({ outing: this.base.outing.id }).toArray()).map(({ id }) => id),
      );
      this.operations = this.operations.filter((each) => each.state !== "refused" || queued.has(each.id));
    }
    this.set({ deck: this.operations.reduce(applyOperation, this.base) });
  }

  private mark(queued: ShownOperation[]): void {
    this.set({
      unsent: new Set(queued.filter(({ state }) => state === "waiting").map(keyOf)),
      refused: queued.filter(({ state }) => state === "refused"),
    });
  }

  private set(change: Partial<DeckView>): void {
    this.view = { ...this.view, ...change };
    for (const listener of this.listeners) listener();
  }
}

async function fetchDeck(outing: string): Promise<Deck> {
  return answer(api.GET("/api/v1/outings/{outing_id}/deck", { params: { path: { outing_id: outing } } }));
}

/** The key of the row an operation is about. */
function keyOf({ id, row }: ShownOperation): string {
  return String(row.capture ?? (row.species === undefined ? row.run : undefined) ?? id);
}
