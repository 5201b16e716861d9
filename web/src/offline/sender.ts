import { ApiError, api, type Schemas, toApiError } from "@/api/client";
import { applyOperation, type ShownOperation } from "./apply-operation";
import { offline } from "./database";

const BATCH = 200;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 15_000;

export type Signal = "sent" | "sending" | "no answer" | "sign in";

/**
 * Sends what the Deck has made, in order, as soon as the server answers, and keeps trying.
 *
 * An operation leaves the browser's database only after the server has said that it is stored, or had been. One that
 * is refused stays, marked with the reason, and holds up no other. Two tabs never send at once.
 */
class Sender {
  private person: string | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private wait = FIRST_WAIT_MS;
  private listeners = new Set<() => void>();
  signal: Signal = "sent";

  /** Starts sending as this person; only what this person recorded is sent. */
  start(person: string | null): void {
    this.person = person;
    this.wait = FIRST_WAIT_MS;
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
    if (!this.person) return;
    const more = await withLock(() => this.sendBatch(this.person!));
    clearTimeout(this.timer);
    if (more === "more") {
      this.wait = FIRST_WAIT_MS;
      this.timer = setTimeout(() => this.run(), 0);
    } else if (more === "failed") {
      this.timer = setTimeout(() => this.run(), this.wait);
      this.wait = Math.min(this.wait * 2, LONGEST_WAIT_MS);
    }
  }

  private async sendBatch(person: string): Promise<"done" | "more" | "failed"> {
    const waiting = await offline.operations.where({ person, state: "waiting" }).limit(BATCH).sortBy("seq");
    const programme = waiting[0]?.programme;
    const batch = waiting.filter((each) => each.programme === programme);
    if (!programme) {
      this.set("sent");
      return "done";
    }
    this.set("sending");
    try {
      await settle(batch, await post(programme, batch));
      return "more";
    } catch (failure) {
      if (failure instanceof ApiError && failure.status === 403) {
        await refuse(batch, failure);
        return "more";
      }
      this.set(failure instanceof ApiError && failure.status === 401 ? "sign in" : "no answer");
      return "failed";
    }
  }

  private set(signal: Signal): void {
    if (signal === this.signal) return;
    this.signal = signal;
    for (const listener of this.listeners) listener();
  }
}

export const sender = new Sender();

async function post(programme: string, batch: ShownOperation[]): Promise<Schemas["OperationResult"][]> {
  const operations = batch.map(({ id, kind, device_time, reason, row }) => ({
    id,
    kind,
    device_time,
    row,
    ...(reason ? { reason } : {}),
  }));
  const { data, error, response } = await api.POST("/api/v1/programmes/{programme_id}/sync", {
    params: { path: { programme_id: programme } },
    body: { operations },
  });
  // 422 with results: some were refused, and the results say which
  const results = data?.results ?? (error as Partial<Schemas["SyncRefused"]> | undefined)?.results;
  if (results) return results;
  throw toApiError(response.status, error);
}

/** Takes what is stored out of the queue and into the kept deck, in one transaction; marks what was refused. */
async function settle(batch: ShownOperation[], results: Schemas["OperationResult"][]): Promise<void> {
  const byId = new Map(results.map((result) => [result.id, result]));
  await offline.transaction("rw", offline.operations, offline.decks, async () => {
    for (const operation of batch) {
      const result = byId.get(operation.id);
      if (!result) continue; // not answered: it stays and is sent again
      if (result.state === "refused") {
        await offline.operations.update(operation.seq!, { state: "refused", error: result.error ?? undefined });
        continue;
      }
      const kept = await offline.decks.get(operation.outing);
      if (kept) await offline.decks.put({ ...kept, deck: applyOperation(kept.deck, operation) });
      await offline.operations.delete(operation.seq!);
    }
  });
}

async function refuse(batch: ShownOperation[], { code, message }: ApiError): Promise<void> {
  await offline.operations.bulkUpdate(
    batch.map(({ seq }) => ({
      key: seq!,
      changes: { state: "refused" as const, error: { code, message, field: null } },
    })),
  );
}

/** One tab sends at a time, where the browser can see to it; the server's keys see to it everywhere. */
async function withLock<T>(work: () => Promise<T>): Promise<T> {
  return navigator.locks ? navigator.locks.request("nailwright-send", work) : work();
}

if (typeof window !== "undefined") window.addEventListener("online", sender.wake);
