import type { Operation } from "./operation";
import { type Outbox, outbox } from "./outbox";
import { type Posted, post } from "./post";

const BATCH = 200;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 15_000;
/** So many single entries stuck one after another are no longer the entries' fault. */
const STUCK_IN_A_ROW = 3;

/** held: a person must decide of an entry first; waits: what an entry belongs to is not on the server yet. */
export type Signal = "sent" | "sending" | "held" | "waits" | "no answer" | "sign in" | "other person";

interface Ports {
  outbox: Pick<Outbox, "next" | "settle">;
  post: (programme: string, person: string, batch: Operation[]) => Promise<Posted>;
  /** One tab sends at a time, where the browser can see to it; the server's receipts see to it everywhere. */
  lock: <T>(work: () => Promise<T>) => Promise<T>;
}

/**
 * Sends what was done on this device, in order, as soon as the server answers, and keeps trying.
 *
 * An operation leaves the browser's database only after the server has said that it is stored, or had been. One that
 * the server refuses stays, marked with the reason, and holds up only what belongs to it. A batch that does not get
 * through is halved until the entry is found that does not, and the others go on.
 */
export class Sender {
  private person: string | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private wait = FIRST_WAIT_MS;
  private most = BATCH;
  private stuckInARow = 0;
  /** Entries that did not get through by themselves: left out until the next wait is over. */
  private aside = new Set<string>();
  private listeners = new Set<() => void>();
  signal: Signal = "sent";
  /** Why the server did not take an entry yet, by its key. */
  reasons: ReadonlyMap<string, string> = new Map();

  constructor(private ports: Ports) {}

  /** Starts sending as this person; only what this person recorded is sent. */
  start(person: string | null): void {
    clearTimeout(this.timer);
    this.person = person;
    this.wait = FIRST_WAIT_MS;
    this.most = BATCH;
    this.stuckInARow = 0;
    this.aside.clear();
    if (person) this.wake();
  }

  /** Something new to send, or a sign that the server may be there again. */
  wake = (): void => {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.run(), 0);
  };

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private async run(): Promise<void> {
    const person = this.person;
    if (!person) return;
    const came = await this.ports
      .lock(() => this.sendBatch(person))
      .catch((failure: unknown) => {
        console.error("sending failed", failure); // this device's own database: everything is kept, and tried again
        this.set("no answer");
        return "later" as const;
      });
    if (person !== this.person) return;
    clearTimeout(this.timer);
    if (came === "more") {
      this.wait = FIRST_WAIT_MS;
      this.timer = setTimeout(() => this.run(), 0);
    } else if (came === "later") {
      this.timer = setTimeout(() => {
        this.aside.clear();
        void this.run();
      }, this.wait);
      this.wait = Math.min(this.wait * 2, LONGEST_WAIT_MS);
    }
  }

  private async sendBatch(person: string): Promise<"done" | "more" | "later"> {
    const { batch, held } = await this.ports.outbox.next(person, this.most, this.aside);
    if (!batch.length) {
      this.set(held ? "held" : this.aside.size ? "waits" : "sent");
      return this.aside.size ? "later" : "done";
    }
    this.set("sending");
    const posted = await this.ports.post(batch[0]!.programme, person, batch);
    if ("results" in posted) return this.settle(batch, posted.results);
    if (posted.way === "stuck") return this.part(batch);
    this.set(posted.way);
    return "later";
  }

  private async settle(batch: Operation[], results: { id: string; state: string; error: Operation["error"] | null }[]) {
    const byId = new Map(results.map((result) => [result.id, result]));
    const done = batch.filter(({ id }) => ["stored", "already"].includes(byId.get(id)?.state ?? ""));
    const refused = batch
      .filter(({ id }) => ["refused", "held"].includes(byId.get(id)?.state ?? ""))
      .map((operation) => ({ operation, error: byId.get(operation.id)?.error ?? undefined }));
    await this.ports.outbox.settle(done, refused);
    const reasons = new Map([...this.reasons].filter(([id]) => !byId.has(id)));
    for (const { id, state, error } of results) if (state === "failed" && error) reasons.set(id, error.message);
    this.reasons = reasons;
    // not answered, or failed over there: it stays, and is sent again after a while
    for (const { id } of batch) if (!byId.has(id) || byId.get(id)?.state === "failed") this.aside.add(id);
    for (const { id } of done) this.aside.delete(id);
    this.most = Math.min(BATCH, this.most * 2);
    this.stuckInARow = 0;
    return "more" as const;
  }

  /** Something on the way does not let this batch through: half of it, down to the entry that is to blame. */
  private part(batch: Operation[]): "more" | "later" {
    if (batch.length > 1) {
      this.most = Math.ceil(batch.length / 2);
      return "more";
    }
    this.aside.add(batch[0]!.id);
    this.stuckInARow += 1;
    if (this.stuckInARow < STUCK_IN_A_ROW) return "more";
    this.stuckInARow = 0;
    this.set("no answer");
    return "later";
  }

  private set(signal: Signal): void {
    if (signal === this.signal) return;
    this.signal = signal;
    for (const listener of this.listeners) listener();
  }
}

export const sender = new Sender({
  outbox,
  post,
  lock: async (work) => (navigator.locks ? navigator.locks.request("nailwright-send", work) : work()),
});

if (typeof window !== "undefined") window.addEventListener("online", sender.wake);
