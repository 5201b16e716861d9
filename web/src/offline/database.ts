import Dexie, { type EntityTable } from "dexie";
import type { Schemas } from "@/api/schemas";
import type { Deck, Operation } from "./operation";

export interface KeptDeck {
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
    // fish kept before units stood beside their texts and each number read was a row of its own
    this.version(3).upgrade(async (transaction) => {
      await transaction
        .table<KeptDeck>("decks")
        .toCollection()
        .modify((kept) => {
          kept.deck = { ...kept.deck, captures: kept.deck.captures.map(withUnitsAndScans) };
        });
      await transaction
        .table<Operation>("operations")
        .toCollection()
        .modify((operation) => {
          if (isCapture(operation.shown)) operation.shown = withUnitsAndScans(operation.shown);
        });
    });
  }
}

export const offline = new Offline();

export async function remember(key: string, value: unknown): Promise<void> {
  await offline.remembered.put({ key, value });
}

export async function recall<T>(key: string): Promise<T | undefined> {
  return (await offline.remembered.get(key))?.value as T | undefined;
}

type Capture = Schemas["Capture"];
type OldCapture = Omit<Capture, "scans" | "length_unit" | "mass_unit"> & Partial<Capture> & { scan_text?: string };

const isCapture = (shown: unknown): shown is OldCapture => typeof shown === "object" && !!shown && "species" in shown;

/** A fish as it is kept now, from one of before; a unit that nobody wrote down stays unknown. */
export function withUnitsAndScans(old: OldCapture): Capture {
  const { scan_text, ...fish } = old;
  const [kind, number] = scan_text?.split(" ") ?? [];
  const read = kind && number ? [{ kind, number, result: fish.scanned === "known" ? "known" : "foreign" }] : [];
  return {
    ...fish,
    length_unit: fish.length_unit ?? "",
    mass_unit: fish.mass_unit ?? "",
    scans: fish.scans ?? (read as Capture["scans"]),
  };
}
