import { type FormEvent, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
import { KINDS } from "@/ui/words/tag-kinds";
import { type Kind, useMoveTags } from "./queries";

const MOVES = { lost: "are lost", spoiled: "are damaged", destroyed: "were destroyed", stock: "are in stock again" };

/** Tags that are not to be had any more, or again. */
export function TakeOutOfUse({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const move = useMoveTags(membership.programme);
  const [refused, setRefused] = useState<{ text: string; why: string }[]>([]);
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
    const state = given.state as keyof typeof MOVES;
    const done = await move
      .mutateAsync({ kind: given.kind as Kind, numbers: given.numbers!, state, reason: given.reason! })
      .catch(() => null); // the refusal is shown below
    if (!done) return;
    setRefused(done.refused);
    if (done.moved) notify(`${plural(done.moved, "tag")} ${MOVES[state]}.`);
    if (!done.refused.length) onClose();
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Lost, damaged, found again"
      description="So that nobody looks for them in a fish. What they were before stays in the history."
    >
      <form onSubmit={save} className="grid gap-3 sm:grid-cols-2">
        <Choice label="Kind" name="kind" autoFocus>
          {Object.entries(KINDS).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </Choice>
        <Choice label="They" name="state">
          {Object.entries(MOVES).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </Choice>
        <div className="sm:col-span-2">
          <Field label="Numbers, such as W1001 - W1020" name="numbers" required />
        </div>
        <div className="sm:col-span-2">
          <Field label="Why" name="reason" required minLength={3} maxLength={200} />
        </div>
        {refused.map(({ text, why }) => (
          <p key={text} className="text-signal sm:col-span-2">
            {text}: {why}
          </p>
        ))}
        {move.error && (
          <div className="sm:col-span-2">
            <ErrorMessage failure={move.error} />
          </div>
        )}
        <Button type="submit" look="ink" large className="sm:col-span-2" disabled={move.isPending}>
          Keep it
        </Button>
      </form>
    </Sheet>
  );
}
