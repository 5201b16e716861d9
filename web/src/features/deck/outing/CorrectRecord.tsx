import { useState } from "react";
import { useForm } from "react-hook-form";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Sheet } from "@/ui/Sheet";
import type { DeckStore, DeckView } from "../document/deck-store";

/** A closed outing is corrected at the desk with all that the Deck has: fish, tags, events, photos, runs; each with the reason. */
export function CorrectRecord({ store, view }: { store: DeckStore; view: DeckView }) {
  const [asking, setAsking] = useState(false);
  const { register, handleSubmit } = useForm({ defaultValues: { reason: "" } });
  const begin = handleSubmit(({ reason }) => {
    store.correct(reason.trim());
    setAsking(false);
  });
  if (view.correcting)
    return (
      <>
        <strong className="min-w-0 truncate text-signal" title={view.correcting}>
          Correcting: {view.correcting}
        </strong>
        <Button look="ink" onClick={() => store.correct(null)}>
          Finish correcting
        </Button>
      </>
    );
  return (
    <>
      <Button onClick={() => setAsking(true)}>Correct record</Button>
      {asking && (
        <Sheet
          open
          onOpenChange={setAsking}
          title="Correct the record of this outing"
          description="The outing stays closed. Each change keeps who made it, when and why."
        >
          <form onSubmit={begin} className="grid gap-3">
            <Field
              label="Reason"
              hint="Such as: field sheet read again"
              required
              minLength={3}
              maxLength={200}
              autoFocus
              {...register("reason")}
            />
            <Button type="submit" look="ink" large>
              Start correcting
            </Button>
          </form>
        </Sheet>
      )}
    </>
  );
}
