import { Controller, useForm } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { useNewSeason } from "./queries";

/** Days of the year that a rule closes, or in which fish spawn. */
export function NewSeason({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const make = useNewSeason(membership.programme);
  const errors = fieldErrors(make.error);
  const { register, control, handleSubmit } = useForm({
    defaultValues: { kind: "closed" as Schemas["NewSeasonRequest"]["kind"], name: "", first: "", last: "" },
  });
  const save = handleSubmit(({ kind, name, first, last }) =>
    make.mutate(
      { kind, name, water: null, first_day: first.slice(5), last_day: last.slice(5) },
      { onSuccess: onClose },
    ),
  );
  return (
    <Sheet open onOpenChange={onClose} title="Add season" description="It comes again every year on these days">
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <Choice label="Kind" error={errors.kind} {...register("kind")}>
          <option value="closed">closed by rule</option>
          <option value="spawning">spawning</option>
        </Choice>
        <Field label="Name" required maxLength={120} error={errors.name} {...register("name")} />
        <Controller
          control={control}
          name="first"
          rules={{ required: true }}
          render={({ field }) => (
            <DayField
              label="First day (any year)"
              required
              value={field.value}
              onDay={field.onChange}
              error={errors.first_day}
            />
          )}
        />
        <Controller
          control={control}
          name="last"
          rules={{ required: true }}
          render={({ field }) => (
            <DayField
              label="Last day (any year)"
              required
              value={field.value}
              onDay={field.onChange}
              error={errors.last_day}
            />
          )}
        />
        <Refusal failure={make.error} fields={["kind", "name", "first_day", "last_day"]} />
        <Button large look="ink" type="submit" disabled={make.isPending} className="col-span-2">
          Save season
        </Button>
      </form>
    </Sheet>
  );
}
