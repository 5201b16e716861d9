import type { ShownOperation } from "@/offline/apply-operation";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import type { DeckStore, DeckView } from "./deck-store";

/** Entries the server did not accept, each with its reason. They stay here until somebody decides. */
export function RefusedEntries({ store, view }: { store: DeckStore; view: DeckView }) {
  if (!view.refused.length) return null;
  const discard = async (operation: ShownOperation) => {
    const takeBack = await store.discard(operation);
    notify("Entry given up.", () => void takeBack());
  };
  return (
    <section aria-label="Not accepted" className="border-b border-signal px-4 py-2">
      <h2 className="font-semibold text-signal">Not accepted by the server; kept on this device</h2>
      <ul>
        {view.refused.map((operation) => (
          <li key={operation.id} className="flex flex-wrap items-center gap-3 py-1">
            <strong>{describe(operation)}</strong>
            <span>{operation.error?.message}</span>
            <Button large className="ml-auto" onClick={() => store.resend(operation)}>
              Send again
            </Button>
            <Button large onClick={() => discard(operation)}>
              Give up
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function describe({ kind, row }: ShownOperation): string {
  const called = [row.species, row.length, row.mass, row.checklist].filter(Boolean).join(" ");
  return `${kind.replace(".", " ")}${called ? `: ${called}` : ""}`;
}
