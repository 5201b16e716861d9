import type { Schemas } from "@/api/client";
import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

type Run = Schemas["Run"];

const kind: DeckOperation<{ run: string } & Partial<Run>> = {
  kind: "run.edit",
  apply: (deck, { row: { run, ...values } }) => ({
    ...deck,
    runs: deck.runs.map((each) => (each.id === run ? { ...each, ...values } : each)),
  }),
  describe: ({ row }) => (row.ended_at ? "end of a run" : "change of a run"),
  subject: ({ row }) => row.run,
};
export default kind;

export function editRun(store: DeckStore, run: Run, values: Partial<Run>): Promise<void> {
  return store.add({ kind: kind.kind, row: { run: run.id, ...values } });
}
