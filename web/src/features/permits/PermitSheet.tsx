import { Controller, useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { ManyOf } from "@/ui/ManyOf";
import { Refusal } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { GEARS } from "@/ui/words/gears";
import { type Permit, useSavePermit } from "./queries";

/** Adds a permit or certificate, or changes one: its number and dates when it is renewed. */
export function PermitSheet({
  people,
  permit,
  onClose,
}: {
  people: string[];
  permit: Permit | null;
  onClose: () => void;
}) {
  const { membership } = useHere();
  const saving = useSavePermit(membership.programme);
  const errors = fieldErrors(saving.error);
  const { register, control, handleSubmit, watch } = useForm({
    defaultValues: {
      name: permit?.name ?? "",
      holder: permit?.holder ?? "",
      number: permit?.number ?? "",
      first: permit?.first ?? "",
      last: permit?.last ?? "",
      gears: permit?.gears ?? [],
    },
  });
  const save = handleSubmit((given) =>
    saving.mutate({ id: permit?.id, kind: given.holder ? "certificate" : "permit", ...given }, { onSuccess: onClose }),
  );
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={permit ? `Change ${permit.name}` : "Add permit or certificate"}
      description={
        permit
          ? "When it is renewed, change its number and dates. What it was before stays in the history."
          : "With its dates: each outing is checked against them."
      }
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <div className="col-span-2">
          <Field label="Name" required maxLength={120} error={errors.name} {...register("name")} />
        </div>
        <Choice label="Holder" error={errors.kind ?? errors.holder} {...register("holder")}>
          <option value="">the programme (a permit)</option>
          {[...new Set([...people, permit?.holder].filter(Boolean))].map((name) => (
            <option key={name}>{name}</option>
          ))}
        </Choice>
        <Field label="Number" maxLength={60} error={errors.number} {...register("number")} />
        <Controller
          control={control}
          name="first"
          render={({ field }) => (
            <DayField label="Valid from" required value={field.value} onDay={field.onChange} error={errors.first} />
          )}
        />
        <Controller
          control={control}
          name="last"
          render={({ field }) => (
            <DayField label="Valid to" required value={field.value} onDay={field.onChange} error={errors.last} />
          )}
        />
        <div className="col-span-2">
          <Controller
            control={control}
            name="gears"
            render={({ field }) => (
              <ManyOf
                label="For which gears"
                none={watch("holder") ? "none: no qualification for a gear, such as first aid" : "all of them"}
                items={GEARS.map(({ code, label }) => ({ value: code, label }))}
                chosen={field.value}
                onChange={field.onChange}
              />
            )}
          />
        </div>
        <Refusal failure={saving.error} fields={["name", "kind", "holder", "number", "first", "last"]} />
        <Button large look="ink" type="submit" disabled={saving.isPending} className="col-span-2">
          Save
        </Button>
      </form>
    </Sheet>
  );
}
