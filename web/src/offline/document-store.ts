import { v7 as uuidv7 } from "uuid";
import { applyOperation, subjectOf } from "./kinds";
import type { Operation, Scope } from "./operation";
import type { Outbox } from "./outbox";
import type { ScopeKind } from "./scopes";

export interface DocumentView<Document> {
  document: Document;
  /** Keys of rows whose last operation has not reached the server. */
  unsent: ReadonlySet<string>;
  /** Keys of rows of which the server refused something. */
  inDoubt: ReadonlySet<string>;
  refused: Operation[];
  /** Set where the document is as it was last known, and why. */
  stale: string | null;
}

export interface Who {
  id: string;
  name: string;
}

/** What tabs that show one scope tell each other. */
export type ScopeMessage = { did: Operation } | { mended: Operation } | { gone: string[] };

/** Everything outside that a document on this device touches. */
export interface DocumentPorts<Document> {
  outbox: Pick<Outbox, "queued" | "watch" | "add" | "change" | "giveUp" | "kept" | "keep">;
  sender: { wake: () => void; subscribe: (listener: () => void) => () => void; readonly signal: string };
  clock: { now: () => Date; readonly offset: number | undefined };
  /** The other tabs of this browser. */
  channel: {
    tell: (scope: Scope, message: ScopeMessage) => void;
    listen: (scope: Scope, told: (message: ScopeMessage) => void) => () => void;
  };
  load: (id: string) => Promise<Document>;
  /** What others did since the document was as it was last read; without it nobody else works on the same one. */
  since?: (id: string, last: Document) => Promise<Since<Document>>;
}

/** What others did: the document with it, or null where nothing was done. */
export interface Since<Document> {
  document: Document | null;
  /** After so many seconds it is to be asked again. */
  again_s: number;
}

/** Where no answer came it is asked again after so many seconds; that there is no signal, the sender says. */
const AGAIN_WITHOUT_ANSWER_S = 15;

export type NewOperation = Pick<Operation, "kind" | "row" | "shown" | "reason" | "heavy" | "desk"> & { id?: string };

/** What this device has of a scope as it is opened. */
export interface Opened<Document> {
  document: Document;
  queued: Operation[];
  /** It was kept here: the server is still to be asked. */
  kept: boolean;
}

/**
 * One scope on this device: its document as the server last gave it, with everything done since.
 *
 * What is done shows at once, in every tab, and is written to the browser's database in the same breath; the sender takes
 * it from there. React reads it through `subscribe` and `view`. All that it touches comes through its ports, so that what is for
 * practice can have others.
 */
export class DocumentStore<Document, More extends object = object> {
  view: DocumentView<Document> & More;
  private listeners = new Set<() => void>();
  private writes: Promise<unknown> = Promise.resolve();
  private reads: Promise<unknown> = Promise.resolve();
  private writing = new Set<string>();
  private stops: (() => void)[];
  private base: Document;
  private operations: Operation[];

  constructor(
    protected readonly scope: Scope,
    private kind: Pick<ScopeKind<Document>, "kind" | "programme">,
    protected who: Who,
    private ports: DocumentPorts<Document>,
    opened: Opened<Document>,
    more: More,
  ) {
    this.base = opened.document;
    this.operations = opened.queued;
    const document = this.operations.reduce(applyOperation<Document>, this.base);
    this.view = { document, unsent: new Set(), inDoubt: new Set(), refused: [], stale: null, ...more };
    this.mark(this.operations);
    this.stops = [
      ports.outbox.watch(scope, (queued) => this.mark(queued)),
      ports.channel.listen(scope, (told) => this.hear(told)),
      // an answer again: what was shown as last known can be read anew
      ports.sender.subscribe(() => this.view.stale && ports.sender.signal === "sent" && void this.reload()),
    ];
    if (opened.kept) this.asking = this.reload();
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

  /**
   * Does something: shown at once, kept on the disk, sent when possible. Resolves when the outbox has it; rejects, and takes it
   * off again, where it is a photo for which this device has no room. `by`: whoever had taken over the device.
   */
  protected put({ id = uuidv7(), kind, row, shown, reason, desk, heavy }: NewOperation, by?: string): Promise<void> {
    const operation: Operation = {
      id,
      person: this.who.id,
      person_name: this.who.name,
      programme: this.kind.programme(this.base),
      scope: this.scope,
      ...(by ? { by } : {}),
      kind,
      device_time: this.now(),
      clock_offset_s: this.ports.clock.offset,
      row,
      shown,
      reason,
      ...(desk ? { desk } : {}),
      ...(heavy ? { heavy } : {}),
      state: "waiting",
    };
    this.operations.push(operation);
    this.writing.add(id);
    this.set({
      document: applyOperation(this.view.document, operation),
      unsent: new Set(this.view.unsent).add(subjectOf(operation)),
    });
    const write = this.writes.then(() => this.ports.outbox.add(operation));
    // one after another, so that the order on the disk is the order in which things were done
    this.writes = write.catch(() => undefined);
    return write.then(
      () => {
        this.writing.delete(id);
        this.ports.channel.tell(this.scope, { did: operation });
        this.ports.sender.wake();
      },
      (failure: Error) => {
        this.writing.delete(id);
        this.forget(new Set([id]));
        throw failure;
      },
    );
  }

  /** Puts a refused entry right where it stands, and sends it again; what belongs to it follows. */
  async mend(
    operation: Operation,
    change: Partial<Pick<Operation, "row" | "shown" | "clock_offset_s">>,
  ): Promise<void> {
    const mended = { ...operation, ...change, state: "waiting" as const, error: undefined };
    await this.ports.outbox.change(operation, { ...change, state: "waiting", error: undefined });
    this.replace(mended);
    this.ports.channel.tell(this.scope, { mended });
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
    this.ports.channel.tell(this.scope, { gone: [...ids] });
    return {
      n: gone.length,
      takeBack: async () => {
        await takeBack();
        this.operations = [...before, ...this.operations.filter((each) => !before.includes(each))];
        this.show();
        for (const each of gone) this.ports.channel.tell(this.scope, { did: each });
      },
    };
  }

  /** Reads everything again, from the server where it answers. What is done meanwhile stays. */
  async reload(): Promise<void> {
    try {
      await this.read(() => this.ports.load(this.scope.id));
    } catch (failure) {
      this.show({ stale: whyStale(failure, this.kind.kind) });
    }
  }

  /**
   * Takes the document that `load` gives, where it gives one, with all that was done here meanwhile. One after another: an answer
   * that was asked for first must not come over a later one.
   */
  private read(load: () => Promise<Document | null>): Promise<void> {
    const read = this.reads.then(() => this.readNow(load));
    this.reads = read.catch(() => undefined); // whoever asked hears of it
    return read;
  }

  private async readNow(load: () => Promise<Document | null>): Promise<void> {
    await this.writes;
    const had = new Set(this.operations.map((each) => each.id));
    const since = () => this.operations.filter((each) => !had.has(each.id));
    const before = await this.ports.outbox.queued(this.scope);
    const loaded = await load();
    if (!loaded) return;
    const { document, queued } = await withEntries(this.ports, this.scope, loaded, before, since, this.writing);
    this.base = document;
    this.operations = queued;
    this.show({ stale: null });
  }

  /** Asks again and again what others did, as long as the page is in sight; gives back how to stop. */
  follow = (): (() => void) => {
    const { since } = this.ports;
    if (!since) return () => undefined;
    let stopped = false;
    let timer: ReturnType<typeof setTimeout>;
    const ask = async () => {
      let again = AGAIN_WITHOUT_ANSWER_S;
      if (!globalThis.document?.hidden)
        await this.read(async () => {
          const answer = await since(this.scope.id, this.base);
          again = answer.again_s;
          return stopped ? null : answer.document;
        }).catch(() => undefined); // no answer: asked again later
      if (!stopped) timer = setTimeout(ask, again * 1000);
    };
    void ask();
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  };

  /** What another tab that shows this did. */
  private hear(told: ScopeMessage): void {
    if ("gone" in told) this.forget(new Set(told.gone));
    else if ("mended" in told) this.replace(told.mended);
    else if (!this.operations.some(({ id }) => id === told.did.id)) {
      this.operations.push(told.did);
      this.set({ document: applyOperation(this.view.document, told.did) });
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

  private show(change: Partial<DocumentView<Document>> = {}): void {
    this.set({ document: this.operations.reduce(applyOperation<Document>, this.base), ...change });
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

  protected set(change: Partial<DocumentView<Document>> | Partial<More>): void {
    this.view = { ...this.view, ...change };
    for (const listener of this.listeners) listener();
  }
}

/** What this device has of a scope; from the server where it was never here. */
export async function openScope<Document>(scope: Scope, ports: DocumentPorts<Document>): Promise<Opened<Document>> {
  const queued = await ports.outbox.queued(scope);
  const kept = await ports.outbox.kept<Document>(scope);
  if (kept) return { document: kept, queued, kept: true };
  return { ...(await readAnew(ports, scope, queued, () => [])), kept: false };
}

/**
 * The document from the server with what it may not have seen: entries that were still queued as it was asked, and those made
 * since. Those of them that went through meanwhile become part of what is kept.
 */
async function readAnew<Document>(
  ports: DocumentPorts<Document>,
  scope: Scope,
  before: Operation[],
  since: () => Operation[],
  writing: ReadonlySet<string> = new Set(),
): Promise<{ document: Document; queued: Operation[] }> {
  return withEntries(ports, scope, await ports.load(scope.id), before, since, writing);
}

async function withEntries<Document>(
  ports: DocumentPorts<Document>,
  scope: Scope,
  loaded: Document,
  before: Operation[],
  since: () => Operation[],
  writing: ReadonlySet<string>,
): Promise<{ document: Document; queued: Operation[] }> {
  let document = loaded;
  const now = await ports.outbox.keep(scope, (queued) => {
    const waits = new Set([...queued.map(({ id }) => id), ...writing]);
    const through = [...before, ...since()].filter(({ id }) => !waits.has(id));
    document = through.reduce(applyOperation<Document>, loaded);
    return document;
  });
  const unwritten = since().filter(({ id }) => !now.some((each) => each.id === id) && writing.has(id));
  return { document, queued: [...now, ...unwritten] };
}

function same(a: ReadonlySet<string>, b: ReadonlySet<string>): boolean {
  return a.size === b.size && [...a].every((each) => b.has(each));
}

function whyStale(failure: unknown, noun: string): string {
  const why = failure instanceof Error ? failure.message : String(failure);
  return failure instanceof TypeError
    ? `No signal: this is the ${noun} as this device last knew it. What you do is kept here.`
    : `The server did not give this ${noun} (${why}). This is how this device last knew it; what you do is kept here.`;
}
