import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { answer, api } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import type { DeckStore, DeckView } from "../document/deck-store";

interface Props {
  store: DeckStore;
  view: DeckView;
  /** Whose name stands in the field at first. */
  name: string;
  onReopen: (() => void) | undefined;
  onClose: () => void;
}

/** Handing an outing over at the quay: done against the plan, what is not complete, and a name under it. */
export function HandoverSheet({ store, view, name, onReopen, onClose }: Props) {
  const { document: deck, unsent } = view;
  const outing_id = deck.outing.id;
  const { data, error } = useQuery({
    queryKey: ["ledger", outing_id, deck.captures],
    queryFn: () => answer(api.GET("/api/v1/outings/{outing_id}/ledger", { params: { path: { outing_id } } })),
    retry: false,
  });
  const [signs, setSigns] = useState(name);
  const [note, setNote] = useState("");
  const [failure, setFailure] = useState<Error | null>(null);
  const [key] = useState(() => uuidv7());
  const waits = unsent.size > 0;
  const close = async () => {
    setFailure(null);
    try {
      await answer(
        api.POST("/api/v1/outings/{outing_id}/state", {
          params: { path: { outing_id } },
          body: { id: key, state: "closed", name: signs.trim(), note: note.trim() },
        }),
      );
      await store.reload();
      notify("Outing closed.", onReopen);
      onClose();
    } catch (refused) {
      setFailure(refused as Error);
    }
  };
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title="Hand over and close"
      description="Read what is not complete, then sign. A lead or biologist can open it again."
    >
      {error && <p className="text-signal">! The list is available when online: closing waits for it.</p>}
      {data && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Lines title="Compared with the plan" lines={data.done} none="No target was set." />
          <Lines title="How fish were handled" lines={data.handled} none="No handling recorded." />
          <section
            aria-label="Not complete"
            className={`sm:col-span-2 ${data.open.length ? "border-l-4 border-signal pl-3" : ""}`}
          >
            <h3 className="font-semibold">{data.open.length ? "! Not complete" : "All is complete"}</h3>
            <ul>
              {data.open.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </section>
          {data.total.deaths && <p className="sm:col-span-2">{data.total.deaths}</p>}
        </div>
      )}
      <form
        className="mt-3 grid gap-3 sm:grid-cols-2"
        onSubmit={(event) => {
          event.preventDefault();
          void close();
        }}
      >
        <Field label="Handed over by" maxLength={80} value={signs} onChange={(event) => setSigns(event.target.value)} />
        <Field label="Handover note" maxLength={300} value={note} onChange={(event) => setNote(event.target.value)} />
        {failure && (
          <div className="sm:col-span-2">
            <ErrorMessage failure={failure} />
          </div>
        )}
        {waits && <p className="sm:col-span-2">Waits until everything is sent.</p>}
        <Button type="submit" look="ink" large className="sm:col-span-2" disabled={waits || !signs.trim() || !data}>
          Sign and close
        </Button>
      </form>
    </Sheet>
  );
}

function Lines({ title, lines, none }: { title: string; lines: readonly string[]; none: string }) {
  return (
    <section aria-label={title}>
      <h3 className="font-semibold">{title}</h3>
      {!lines.length && <p className="text-muted">{none}</p>}
      <ul>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </section>
  );
}
