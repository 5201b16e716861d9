import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Sheet } from "@/ui/Sheet";
import type { DeckStore, DeckView } from "../document/deck-store";
import { signChecklist } from "../operations/checklist-sign";
import { toSign } from "../rules/orders";

interface Props {
  store: DeckStore;
  view: DeckView;
  onClose: () => void;
}

/** One checklist after the other, read aloud and signed by name; or passed over, with a reason that is kept. */
export function SigningSheet({ store, view, onClose }: Props) {
  const { person } = useHere();
  const [name, setName] = useState(person.name);
  const [note, setNote] = useState("");
  const [passing, setPassing] = useState(false);
  const left = toSign(view.document);
  const list = left[0];
  if (!list) return null;
  const put = async (lists: typeof left, signed: boolean) => {
    const signature = { name: name.trim(), note: note.trim(), signed };
    setNote(""); // the next list stands there at once: what is typed into it while this one is being kept stays
    for (const { code } of lists) await signChecklist(store, code, signature);
    if (lists.length === left.length) onClose();
  };
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={list.title}
      description={`Version ${list.version}. ${left.length > 1 ? `The first of ${left.length} that are left. ` : ""}Read aloud, then sign by name; until then the pedal clock is held back.`}
    >
      <ul className="list-disc pl-5">
        {list.lines.map((line) => (
          <li key={line} className="py-0.5">
            {line}
          </li>
        ))}
      </ul>
      <div className="mt-3 grid gap-3">
        <Field label="Name" value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
        {(list.note || passing) && (
          <Field
            label={passing ? "Why the outing goes on without (kept in the record)" : list.note}
            value={note}
            maxLength={300}
            onChange={(event) => setNote(event.target.value)}
          />
        )}
        {passing ? (
          <>
            <Button
              large
              look="signal"
              disabled={!name.trim() || note.trim().length < 3}
              onClick={() => put(left, false)}
            >
              Go on with {left.length === 1 ? "this list" : `these ${left.length} lists`} unsigned
            </Button>
            <Button onClick={() => setPassing(false)}>Back to signing</Button>
          </>
        ) : (
          <>
            <Button
              large
              look="ink"
              disabled={!name.trim() || (list.note !== "" && !note.trim())}
              onClick={() => put([list], true)}
            >
              Sign
            </Button>
            <Button onClick={() => setPassing(true)}>Go on without signing...</Button>
          </>
        )}
        <p className="text-sm text-muted">Local law, permit, protocol and the trained leader decide.</p>
      </div>
    </Sheet>
  );
}
