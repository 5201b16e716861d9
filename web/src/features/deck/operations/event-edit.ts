import type { Schemas } from "@/api/schemas";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import { withDetails } from "../document/upgrades";
import type { Details } from "../handling/events";
import type { DeckOperation } from "../scope";

type Event = Schemas["Event"];
interface Row {
  event: string;
  details?: Record<string, Details[string] | null>;
  at?: string;
  deleted?: boolean;
}

const kind: DeckOperation<Row, Event> = {
  kind: "event.edit",
  apply: (deck, { row, shown }) => {
    const { event, details, at, deleted } = withDetails(row); // a tablet may hold one of before 0.11
    if (deleted) return { ...deck, events: deck.events.filter(({ id }) => id !== event) };
    const there = deck.events.find(({ id }) => id === event) ?? shown;
    if (!there) return deck;
    const merged = Object.entries({ ...there.details, ...details }).filter(([, value]) => value !== null);
    const now = {
      ...there,
      details: Object.fromEntries(merged) as Event["details"],
      device_time: at ?? there.device_time,
    };
    return { ...deck, events: put(deck.events, now) };
  },
  describe: ({ row }) => (row.deleted ? "entry taken out" : "correction of an entry"),
  subject: ({ row }) => row.event,
};
export default kind;

/** Puts right what was said, field by field: null takes a field away. */
export function editEvent(store: DeckStore, event: string, details: Row["details"]): Promise<void> {
  return store.add({ kind: kind.kind, row: { event, details } });
}

/** Takes out what was said, or puts it back. */
export function takeOutEvent(store: DeckStore, event: Event, deleted: boolean): Promise<void> {
  return store.add({ kind: kind.kind, row: { event: event.id, deleted }, shown: event });
}
