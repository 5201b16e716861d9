import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { takeOutEvent } from "../operations/event-edit";
import { recordEvent } from "../operations/event-record";
import type { Token } from "../rules/lanes";
import type { Details } from "./events";
import { Kinds } from "./Kinds";

interface Props {
  store: DeckStore;
  view: DeckView;
  /** The fish of a lane, as they stood when it was opened: who moves on meanwhile was meant as well. */
  tokens: readonly Token[];
  onClose: () => void;
}

/** What is recorded of all fish of a lane at once: stage, posture, what was found. A sample, an age, a second measurement is of one fish. */
export function LaneSheet({ store, view, tokens, onClose }: Props) {
  const ids = tokens.map(({ capture }) => capture.id);
  const say = (what: string, details: Details) => {
    const before = new Set(store.view.document.events.map(({ id }) => id));
    void recordEvent(store, { captures: ids }, what, details);
    const made = store.view.document.events.filter(({ id }) => !before.has(id));
    notify(
      `Recorded for ${plural(ids.length, "entry", "entries")}.`,
      () => void Promise.all(made.map((event) => takeOutEvent(store, event, true))),
    );
  };
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={`All in ${tokens[0]?.lane.word}: ${plural(ids.length, "entry", "entries")}`}
      description="What is touched here is recorded for each of them, with its time."
    >
      <Kinds view={view} events={[]} say={say} groups={["bath", "arrival"]} folded />
    </Sheet>
  );
}
