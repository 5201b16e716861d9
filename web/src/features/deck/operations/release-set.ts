import type { Schemas } from "@/api/client";
import type { OperationKind } from "@/offline/operation";
import { plural } from "@/ui/format";
import { RELEASES, type Release } from "../call-line";
import type { DeckStore } from "../deck-store";

interface Row {
  captures: string[];
  code: Schemas["Capture"]["release"] | null;
}

const kind: OperationKind<Row> = {
  kind: "release.set",
  apply: (deck, { row }) => {
    const left = new Set(row.captures);
    return {
      ...deck,
      captures: deck.captures.map((each) => (left.has(each.id) ? { ...each, release: row.code ?? "" } : each)),
    };
  },
  describe: ({ row }) =>
    `${plural(row.captures.length, "entry", "entries")} ${row.code ? RELEASES[row.code] : "aboard"}`,
  subject: ({ id }) => id,
};
export default kind;

/** Says how fish left the boat; an empty code takes that back: they are aboard. */
export function releaseFish(store: DeckStore, captures: string[], code: Release): Promise<void> {
  return store.add({ kind: kind.kind, row: { captures, code: code || null } });
}
