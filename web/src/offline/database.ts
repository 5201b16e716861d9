import Dexie, { type EntityTable } from "dexie";
import type { Schemas } from "@/api/client";

export type Deck = Schemas["Deck"];
export type OperationKind = Schemas["OperationKindEnum"];

/** Something done on the Deck that the server has not confirmed yet. */
export interface Operation {
  /** Order in which it was made; given by the database. */
  seq?: number;
  /** UUIDv7: the key of the row it makes, or of the change. */
  id: string;
  person: string;
  programme: string;
  outing: string;
  kind: OperationKind;
  device_time: string;
  reason?: string;
  row: Record<string, unknown>;
  state: "waiting" | "refused";
  error?: Schemas["Error"];
}

interface KeptDeck {
  outing: string;
  deck: Deck;
}

interface Remembered {
  key: string;
  value: unknown;
}

/** What the browser keeps: unsent operations, each outing's deck as last known, and small things to remember. */
class Offline extends Dexie {
  operations!: EntityTable<Operation, "seq">;
  decks!: EntityTable<KeptDeck, "outing">;
  remembered!: EntityTable<Remembered, "key">;

  constructor() {
    // strict: a fish counts as kept only when it is on the disk, not when it is on its way there
    super("nailwright", { chromeTransactionDurability: "strict" });
    this.version(1).stores({ operations: "++seq, &id, outing, [person+state]", decks: "outing", remembered: "key" });
    // a deck kept before checklists and orders were: the outing can still be worked with no signal
    this.version(2).upgrade((transaction) =>
      transaction
        .table<KeptDeck>("decks")
        .toCollection()
        .modify((kept) => {
          kept.deck = { ...kept.deck, checklists: kept.deck.checklists ?? [], orders: kept.deck.orders ?? null };
        }),
    );
  }
}

export const offline = new Offline();

export async function remember(key: string, value: unknown): Promise<void> {
  await offline.remembered.put({ key, value });
}

export async function recall<T>(key: string): Promise<T | undefined> {
  return (await offline.remembered.get(key))?.value as T | undefined;
}
