import { useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import type { DeckStore, DeckView } from "../document/deck-store";
import { type CrewCode, changeOfRecorder, isCodeOf } from "./callers";

interface Props {
  store: DeckStore;
  view: DeckView;
  /** Whose sign-in this tablet has. */
  own: { id: string; name: string };
  onClose: () => void;
}

/** So many wrong codes, and the sheet waits a while. */
const TRIES = 5;
const WAIT_MS = 30_000;

/** Another of the crew takes over this tablet, also with no signal: entries from then on are theirs. */
export function CallerSheet({ store, view: { document: deck, caller }, own, onClose }: Props) {
  const [chosen, setChosen] = useState<CrewCode | null>(null);
  const [code, setCode] = useState("");
  const [wrong, setWrong] = useState(0);
  const [until, setUntil] = useState(0);
  const others = deck.crew.filter(({ person }) => person !== own.id);
  const take = (next: { id: string; name: string } | null) => {
    void store.takeOver(next);
    void changeOfRecorder(next ?? own).then((words) => notify(words ?? `${(next ?? own).name} records from now on.`));
    onClose();
  };
  const tryCode = () => {
    if (!chosen) return;
    if (Date.now() < until) return;
    if (isCodeOf(chosen, code)) return take({ id: chosen.person, name: chosen.name });
    setCode("");
    setWrong(wrong + 1);
    if ((wrong + 1) % TRIES === 0) setUntil(Date.now() + WAIT_MS);
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Who calls?"
      description="Entries from now on carry that name; they are sent under the sign-in of this tablet."
    >
      <ul className="grid gap-2">
        <li>
          <Button large className="w-full" aria-pressed={!caller} onClick={() => take(null)}>
            {own.name}, whose sign-in this is
          </Button>
        </li>
        {others.map((each) => (
          <li key={each.person}>
            <Button
              large
              className="w-full"
              look={chosen?.person === each.person ? "ink" : "plain"}
              aria-pressed={caller?.id === each.person}
              onClick={() => {
                setChosen(each);
                setCode("");
                setWrong(0);
              }}
            >
              {each.name}
            </Button>
          </li>
        ))}
      </ul>
      {others.length === 0 && (
        <p className="mt-3 text-muted">
          Nobody else of the crew has a short code yet: each sets one under their name, My account. This tablet knows it
          the next time it has a signal.
        </p>
      )}
      {chosen && (
        <form
          className="mt-3 flex items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            tryCode();
          }}
        >
          <Field
            label={`Short code of ${chosen.name}`}
            value={code}
            inputMode="numeric"
            type="password"
            autoComplete="off"
            maxLength={8}
            autoFocus
            error={
              wrong
                ? Date.now() < until
                  ? `Wrong ${wrong} times. Wait half a minute.`
                  : "This is not the code. Nothing has changed."
                : undefined
            }
            onChange={(event) => setCode(event.target.value.replace(/\D/g, ""))}
          />
          <Button type="submit" look="ink" large disabled={code.length < 4}>
            Take over
          </Button>
        </form>
      )}
    </Sheet>
  );
}
