import { v5 as uuidv5 } from "uuid";
import type { Schemas } from "@/api/schemas";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import type { Details } from "../handling/events";
import type { DeckOperation } from "../scope";

interface Row {
  what: string;
  details: Details;
  capture?: string;
  captures?: string[];
  run?: string;
  outing?: string;
}

const kind: DeckOperation<Row> = {
  kind: "event.record",
  apply: (deck, { id, row, device_time }) => {
    const run = (capture: string) => deck.captures.find((each) => each.id === capture)?.run ?? null;
    const event = (key: string, capture: string | null): Schemas["Event"] => ({
      id: key,
      kind: row.what,
      details: row.details as Schemas["Event"]["details"],
      capture,
      run: capture ? run(capture) : (row.run ?? null),
      device_time,
    });
    const made = row.captures?.map((each) => event(uuidv5(each, id), each)) ?? [event(id, row.capture ?? null)];
    return { ...deck, events: made.reduce(put<Schemas["Event"]>, deck.events) };
  },
  describe: ({ row }) => row.what.replaceAll("_", " "),
  subject: ({ id, row }) => row.capture ?? id,
};
export default kind;

/** Whom something is said of: a fish, several, a run; a bath is of the outing itself. */
export type About = { capture: string } | { captures: string[] } | { run: string } | "outing";

/** Says something; the key of what was said, for taking it back. Of several fish each has a key of its own. */
export async function recordEvent(store: DeckStore, about: About, what: string, details: Details = {}): Promise<void> {
  const whom = about === "outing" ? { outing: store.view.document.outing.id } : about;
  await store.add({ kind: kind.kind, row: { what, details, ...whom } });
}
