import { useState } from "react";
import { Controller, useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
import { KINDS, POWERED } from "@/ui/words/tag-kinds";
import { type Kind, useActivateTags } from "./queries";

/** The day on which tags were activated: from then on their batteries are used. */
export function ActivateTags({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const activate = useActivateTags(membership.programme);
  const errors = fieldErrors(activate.error);
  const [refused, setRefused] = useState<{ text: string; why: string }[]>([]);
  const { register, handleSubmit, control } = useForm({
    defaultValues: { kind: "acoustic" as Kind, numbers: "", day: "" },
  });
  const save = handleSubmit(({ day, ...given }) =>
    activate.mutate(
      { ...given, day: day || null },
      {
        onSuccess: (done) => {
          setRefused(done.refused);
          if (done.moved) notify(`${plural(done.moved, "tag")} ${day ? "activated" : "without a day of activation"}.`);
          if (!done.refused.length) onClose();
        },
      },
    ),
  );
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Activation of transmitters"
      description="Their batteries are used from this day on; where none is entered, from implanting."
    >
      <form onSubmit={save} className="grid gap-3 sm:grid-cols-2">
        <Choice label="Kind" error={errors.kind} {...register("kind")}>
          {POWERED.map((code) => (
            <option key={code} value={code}>
              {KINDS[code]}
            </option>
          ))}
        </Choice>
        <Controller
          name="day"
          control={control}
          render={({ field }) => (
            <DayField label="Activated on (empty: not known)" value={field.value} onDay={field.onChange} />
          )}
        />
        <div className="sm:col-span-2">
          <Field label="Numbers, such as A1001 - A1020" required error={errors.numbers} {...register("numbers")} />
        </div>
        {refused.map(({ text, why }) => (
          <p key={text} className="text-signal sm:col-span-2">
            {text}: {why}
          </p>
        ))}
        <Refusal failure={activate.error} fields={["kind", "numbers"]} />
        <Button type="submit" look="ink" large className="sm:col-span-2" disabled={activate.isPending}>
          Save activation
        </Button>
      </form>
    </Sheet>
  );
}
