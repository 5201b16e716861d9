import { Controller, useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { type Allowance, type Permit, useAllowanceStep } from "./queries";

export const WHAT: Record<Allowance["what"], string> = {
  captured: "captured",
  handled: "measured, weighed or marked",
  tagged: "given a tag",
  killed: "dead or retained",
};

interface Props {
  permits: readonly Permit[];
  allowance: Allowance | null;
  onClose: () => void;
}

/** Adds how many fish a permit allows, or changes it. */
export function AllowanceSheet({ permits, allowance, onClose }: Props) {
  const { membership } = useHere();
  const { data: options } = useSelectionOptions(membership.programme);
  const step = useAllowanceStep(membership.programme);
  const errors = fieldErrors(step.error);
  const year = new Date().getFullYear();
  const { register, control, handleSubmit } = useForm({
    defaultValues: {
      permit: allowance?.permit_id ?? permits[0]?.id ?? "",
      species: allowance?.species ?? "",
      what: allowance?.what ?? "captured",
      most: allowance ? String(allowance.most) : "",
      first: allowance?.first ?? `${year}-01-01`,
      last: allowance?.last ?? `${year}-12-31`,
    },
  });
  const save = handleSubmit(({ most, ...given }) => {
    const body = { ...given, most: Number(most) };
    step.mutate(allowance ? { what: "change", id: allowance.id, body } : { what: "add", body }, { onSuccess: onClose });
  });
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={allowance ? "Change allowance" : "Add allowance"}
      description="As the permit states it. What it was before stays in the history."
    >
      <form className="grid grid-cols-2 gap-3" onSubmit={save}>
        <div className="col-span-2">
          <Choice label="Permit" error={errors.permit} {...register("permit")}>
            {permits.map(({ id, name, number }) => (
              <option key={id} value={id}>
                {[name, number].filter(Boolean).join(", ")}
              </option>
            ))}
          </Choice>
        </div>
        <Choice key={options ? "known" : ""} label="Species" error={errors.species} {...register("species")}>
          <option value="">all species together</option>
          {options?.species.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Choice>
        <Choice label="Fish" error={errors.what} {...register("what")}>
          {Object.entries(WHAT).map(([what, words]) => (
            <option key={what} value={what}>
              {words}
            </option>
          ))}
        </Choice>
        <Field label="At most" unit="fish" type="number" min={0} required error={errors.most} {...register("most")} />
        <span />
        <Controller
          control={control}
          name="first"
          render={({ field }) => (
            <DayField label="First day" required value={field.value} onDay={field.onChange} error={errors.first} />
          )}
        />
        <Controller
          control={control}
          name="last"
          render={({ field }) => (
            <DayField label="Last day" required value={field.value} onDay={field.onChange} error={errors.last} />
          )}
        />
        <Refusal failure={step.error} fields={["permit", "species", "what", "most", "first", "last"]} />
        <Button type="submit" look="ink" large className="col-span-2" disabled={step.isPending}>
          Save
        </Button>
      </form>
    </Sheet>
  );
}
