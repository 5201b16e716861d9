import { useState } from "react";
import { useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
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
  const errors = fieldErrors(move.error);
  const [refused, setRefused] = useState<{ text: string; why: string }[]>([]);
  const { register, handleSubmit } = useForm({
    defaultValues: { kind: "pit" as Kind, state: "lost" as keyof typeof MOVES, numbers: "", reason: "" },
  });
  const save = handleSubmit((given) =>
    move.mutate(given, {
      onSuccess: (done) => {
        setRefused(done.refused);
        if (done.moved) notify(`${plural(done.moved, "tag")} ${MOVES[given.state]}.`);
        if (!done.refused.length) onClose();
      },
    }),
  );
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Lost, damaged or found tags"
      description="Nobody looks for them in a fish then. Their earlier states stay in the history."
    >
      <form onSubmit={save} className="grid gap-3 sm:grid-cols-2">
        <Choice label="Kind" autoFocus error={errors.kind} {...register("kind")}>
          {Object.entries(KINDS).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </Choice>
        <Choice label="The tags" error={errors.state} {...register("state")}>
          {Object.entries(MOVES).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </Choice>
        <div className="sm:col-span-2">
          <Field label="Numbers, such as W1001 - W1020" required error={errors.numbers} {...register("numbers")} />
        </div>
        <div className="sm:col-span-2">
          <Field label="Reason" required minLength={3} maxLength={200} error={errors.reason} {...register("reason")} />
        </div>
        {refused.map(({ text, why }) => (
          <p key={text} className="text-signal sm:col-span-2">
            {text}: {why}
          </p>
        ))}
        <Refusal failure={move.error} fields={["kind", "state", "numbers", "reason"]} />
        <Button type="submit" look="ink" large className="sm:col-span-2" disabled={move.isPending}>
          Save
        </Button>
      </form>
    </Sheet>
  );
}
