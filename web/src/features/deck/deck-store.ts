import { v7 as uuidv7 } from "uuid";
import { applyOperation, subjectOf } from "@/offline/kinds";
import type { Deck, Operation } from "@/offline/operation";
import type { Caller } from "./callers";
import type { DeckMessage, DeckPorts } from "./deck-ports";

export interface DeckView {
  deck: Deck;
  /** Keys of rows whose last operation has not reached the server. */
  unsent: ReadonlySet<string>;
  /** Keys of rows of which the server refused something. */
  inDoubt: ReadonlySet<string>;
  refused: Operation[];
  /** Set where the deck is as it was last known, and why. */
  stale: string | null;
  /** Who has taken over this tablet, where that is not whose sign-in it has. */
  caller: Caller | null;
}

export interface Who {
  id: string;
  name: string;
}

type NewOperation = Pick<Operation, "kind" | "row" | "shown" | "reason" | "heavy"> & { id?: string };

/**
 * One outing on this tablet: the deck as the server last gave it, with everything done since.
 *
 * What is done shows at once, in every tab, and is written to the browser's database in the same breath; the sender takes
 * it from there. React reads it through `subscribe` and `view`. All that it touches comes through its ports, so that a
 * practice deck can have others.
 */
export class DeckStore {
  view: DeckView;
  private listeners = new Set<() => void>();
  private writes: Promise<unknown> = Promise.resolve();
  private writing = new Set<string>();
  private stops: (() => void)[];

  private constructor(
    private base: Deck,
    private operations: Operation[],
    private who: Who,
    private ports: DeckPorts,
    stale: string | null,
    caller: Caller | null,
  ) {
    const deck = operations.reduce(applyOperation, base);
    this.view = { deck, unsent: new Set(), inDoubt: new Set(), refused: [], stale, caller };
    this.mark(operations);
    const { id } = base.outing;
    this.stops = [
      ports.outbox.watch(id, (queued) => this.mark(queued)),
      ports.channel.listen(id, (told) => this.hear(told)),
      // an answer again: what was shown as last known can be read anew
      ports.sender.subscribe(() => this.view.stale && ports.sender.signal === "sent" && void this.reload()),
    ];
  }

  /** The outing as this device last knew it, at once, with the server asked beside it; from the server where it never was here. */
  static async open(outing: string, who: Who, ports: DeckPorts): Promise<DeckStore> {
    const queued = await ports.outbox.queued(outing);
    const kept = await ports.outbox.keptDeck(outing);
    const last = await ports.caller.last(outing, who);
    const caller = last?.id === who.id ? null : last;
    if (kept) {
      const store = new DeckStore(kept, queued, who, ports, null, caller);
      store.asking = store.reload();
      return store;
    }
    const { base, queued: now } = await readAnew(ports, outing, queued, () => []);
    return new DeckStore(base, now, who, ports, null, caller);
  }

  /** Resolves when the server's answer to the opening is shown, or it is known that none came. */
  asking: Promise<void> = Promise.resolve();

  close(): void {
    for (const stop of this.stops) stop();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** The device's time as entries carry it. */
  now(): string {
    return this.ports.clock.now().toISOString();
  }

  /** Somebody else of the crew calls from now on; nobody: whose sign-in this is. */
  takeOver(caller: Caller | null): Promise<void> {
    this.set({ caller });
    return this.ports.caller.remember(this.base.outing.id, this.who, caller);
  }

  /**
   * Does something: shown at once, kept on the disk, sent when possible. Resolves when the outbox has it; rejects, and takes it
   * off the deck, where it is a photo for which this device has no room.
   */
  add({ id = uuidv7(), kind, row, shown, reason, heavy }: NewOperation): Promise<void> {
    const operation: Operation = {
      id,
      person: this.who.id,
      person_name: this.who.name,
      programme: this.base.outing.programme,
      outing: this.base.outing.id,
      ...(this.view.caller ? { by: this.view.caller.id } : {}),
      kind,
      device_time: this.now(),
      clock_offset_s: this.ports.clock.offset,
      row,
      shown,
      reason,
      ...(heavy ? { heavy } : {}),
      state: "waiting",
    };
    this.operations.push(operation);
    this.writing.add(id);
    this.set({
      deck: applyOperation(this.view.deck, operation),
      unsent: new Set(this.view.unsent).add(subjectOf(operation)),
    });
    const write = this.writes.then(() => this.ports.outbox.add(operation));
    // one after another, so that the order on the disk is the order in which things were done
    this.writes = write.catch(() => undefined);
    return write.then(
      () => {
        this.writing.delete(id);
        this.ports.channel.tell(operation.outing, { did: operation });
        this.ports.sender.wake();
      },
      (failure: Error) => {
        this.writing.delete(id);
        this.forget(new Set([id]));
        throw failure;
      },
    );
  }

  /** The call of a fish that the server refused, where it did. */
  refusedRecord(capture: string): Operation | undefined {
    return this.view.refused.find(({ id }) => id === capture);
  }

  /** Puts a refused entry right where it stands, and sends it again; what belongs to it follows. */
  async mend(
    operation: Operation,
    change: Partial<Pick<Operation, "row" | "shown" | "clock_offset_s">>,
  ): Promise<void> {
    const mended = { ...operation, ...change, state: "waiting" as const, error: undefined };
    await this.ports.outbox.change(operation, { ...change, state: "waiting", error: undefined });
    this.replace(mended);
    this.ports.channel.tell(operation.outing, { mended });
    this.ports.sender.wake();
  }

  /** Sends a refused operation again, for instance after the outing was opened again. */
  resend = (operation: Operation): Promise<void> => this.mend(operation, {});

  /** Gives up a refused operation and what belongs to it; returns how many, and how to take that back. */
  async discard(operation: Operation): Promise<{ n: number; takeBack: () => Promise<void> }> {
    const { gone, takeBack } = await this.ports.outbox.giveUp(operation);
    const ids = new Set(gone.map(({ id }) => id));
    const before = this.operations;
    this.forget(ids);
    this.ports.channel.tell(operation.outing, { gone: [...ids] });
    return {
      n: gone.length,
      takeBack: async () => {
        await takeBack();
        this.operations = [...before, ...this.operations.filter((each) => !before.includes(each))];
        this.show();
        for (const each of gone) this.ports.channel.tell(operation.outing, { did: each });
      },
    };
  }

  /** Reads everything again, from the server where it answers. What is done meanwhile stays. */
  async reload(): Promise<void> {
    await this.writes;
    const { id } = this.base.outing;
    const had = new Set(this.operations.map((each) => each.id));
    const since = () => this.operations.filter((each) => !had.has(each.id));
    try {
      const { base, queued } = await readAnew(this.ports, id, await this.ports.outbox.queued(id), since, this.writing);
      this.base = base;
      this.operations = queued;
      this.set({ deck: queued.reduce(applyOperation, base), stale: null });
    } catch (failure) {
      this.set({ stale: whyStale(failure) });
    }
  }

  /** What another tab of this outing did. */
  private hear(told: DeckMessage): void {
    if ("gone" in told) this.forget(new Set(told.gone));
    else if ("mended" in told) this.replace(told.mended);
    else if (!this.operations.some(({ id }) => id === told.did.id)) {
      this.operations.push(told.did);
      this.set({ deck: applyOperation(this.view.deck, told.did) });
    }
  }

  private replace(operation: Operation): void {
    this.operations = this.operations.map((each) => (each.id === operation.id ? operation : each));
    this.show();
  }

  private forget(ids: ReadonlySet<string>): void {
    this.operations = this.operations.filter(({ id }) => !ids.has(id));
    this.show();
  }

  private show(): void {
    this.set({ deck: this.operations.reduce(applyOperation, this.base) });
  }

  private mark(queued: Operation[]): void {
    const refused = queued.filter(({ state }) => state === "refused");
    const unsent = new Set(queued.map(subjectOf));
    // told again of what is shown already, as after each call: nothing to draw anew
    if (!refused.length && !this.view.refused.length && same(unsent, this.view.unsent)) return;
    this.set({
      unsent,
      inDoubt: new Set(refused.map(subjectOf)),
      refused,
    });
  }

  private set(change: Partial<DeckView>): void {
    this.view = { ...this.view, ...change };
    for (const listener of this.listeners) listener();
  }
}

/**
 * The deck from the server with what it may not have seen: entries that were still queued as it was asked, and those made
 * since. Those of them that went through meanwhile become part of the deck that is kept.
 */
async function readAnew(
  ports: DeckPorts,
  outing: string,
  before: Operation[],
  since: () => Operation[],
  writing: ReadonlySet<string> = new Set(),
): Promise<{ base: Deck; queued: Operation[] }> {
  const deck = await ports.fetchDeck(outing);
  const now = await ports.outbox.queued(outing);
  const waits = new Set([...now.map(({ id }) => id), ...writing]);
  const through = [...before, ...since()].filter(({ id }) => !waits.has(id));
  const base = through.reduce(applyOperation, deck);
  await ports.outbox.keepDeck(base);
  const unwritten = since().filter(({ id }) => !now.some((each) => each.id === id) && writing.has(id));
  return { base, queued: [...now, ...unwritten] };
}

function same(a: ReadonlySet<string>, b: ReadonlySet<string>): boolean {
  return a.size === b.size && [...a].every((each) => b.has(each));
}

function whyStale(failure: unknown): string {
  const why = failure instanceof Error ? failure.message : String(failure);
  return failure instanceof TypeError
    ? "No signal: this is the outing as this device last knew it. What you do is kept here."
    : `The server did not give this outing (${why}). This is how this device last knew it; what you do is kept here.`;
}
