import type { Schemas } from "@/api/client";
import { describeOperation } from "@/offline/kinds";
import type { Operation } from "@/offline/operation";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import { plural } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { TimeOfEntries } from "./TimeOfEntries";

type Capture = Schemas["Capture"];

interface Props {
  store: DeckStore;
  view: DeckView;
  onMend: (capture: Capture) => void;
}

/** As many are shown at once: a tablet that comes back late may have hundreds. */
const SHOWN = 20;

/** Entries the server did not accept, each with its reason. They stay here until somebody decides. */
export function RefusedEntries({ store, view, onMend }: Props) {
  if (!view.refused.length) return null;
  const untimed = view.refused.filter(({ error }) => error?.code === TIME_UNLIKELY);
  const others = view.refused.filter((each) => !untimed.includes(each));
  return (
    <section aria-label="Not accepted" className="border-b border-signal px-4 py-2">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold text-signal">
          {others.length
            ? "Not accepted by the server; kept on this device"
            : "Held for their time; kept on this device"}
        </h2>
        {others.length > 1 && (
          <Button large onClick={() => void resendAll(store, others)}>
            Send all {others.length} again
          </Button>
        )}
      </div>
      {untimed.length > 0 && <TimeOfEntries store={store} entries={untimed} />}
      <ul>
        {others.slice(0, SHOWN).map((operation) => (
          <li key={operation.id} className="flex flex-wrap items-center gap-3 py-1">
            <strong>{describeOperation(operation)}</strong>
            <span>{operation.error?.message}</span>
            <span className="ml-auto flex flex-wrap gap-3">
              <Decide store={store} view={view} operation={operation} onMend={onMend} />
            </span>
          </li>
        ))}
      </ul>
      {others.length > SHOWN && <p className="text-muted">and {others.length - SHOWN} more</p>}
    </section>
  );
}

/** The server's word for an entry whose device had lost its time (`receiving.py`). */
const TIME_UNLIKELY = "time_unlikely";

/** In the order in which they were made: an entry may belong to one before it. */
async function resendAll(store: DeckStore, refused: readonly Operation[]): Promise<void> {
  for (const each of refused) await store.resend(each);
}

function Decide({ store, view, operation, onMend }: Props & { operation: Operation }) {
  const fish = view.document.captures.find(({ id }) => id === operation.id);
  const meant = (word: string) => store.mend(operation, { row: { ...operation.row, meant: word } });
  const discard = async () => {
    const { n, takeBack } = await store.discard(operation);
    notify(
      n > 1 ? `${plural(n, "entry", "entries")} given up: it, and what belonged to it.` : "Entry given up.",
      () => void takeBack(),
    );
  };
  return (
    <>
      {fish && (
        <Button large look="ink" onClick={() => onMend(fish)}>
          Call it again
        </Button>
      )}
      {operation.error?.code === "mark_known_later" ? (
        <>
          <Button large look="ink" onClick={() => meant("fish_keeps_mark")}>
            Only this call is wrong: the fish carries the tag
          </Button>
          <Button large onClick={() => meant("never_marked")}>
            It was never marked here
          </Button>
        </>
      ) : (
        <Button large onClick={() => store.resend(operation)}>
          Send again
        </Button>
      )}
      <Button large onClick={discard}>
        Give up
      </Button>
    </>
  );
}
