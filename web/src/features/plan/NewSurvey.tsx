import { useNavigate } from "@tanstack/react-router";
import { Controller, useForm } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { usePlan } from "@/features/programme";
import { useSelectionOptions } from "@/features/selection";
import { useNewWater } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { useNewSurvey } from "./queries";

type Plan = Schemas["Plan"];
type Options = Schemas["SelectionOptions"];
const FIELDS = ["name", "question", "water", "gear", "first", "last", "visits", "species"];

/** Begins the plan of a survey: what it answers, where and when. */
export function NewSurvey({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const { data: plan } = usePlan(membership.programme);
  const { data: options } = useSelectionOptions(membership.programme);
  return (
    <Sheet open onOpenChange={onClose} title="Plan a survey" description="What shall it answer, where, and when?">
      {plan && options ? (
        <SurveyForm plan={plan} options={options} />
      ) : (
        <p className="text-muted">Loading waters and species...</p>
      )}
    </Sheet>
  );
}

function SurveyForm({ plan, options }: { plan: Plan; options: Options }) {
  const { membership } = useHere();
  const navigate = useNavigate();
  const make = useNewSurvey(membership.programme);
  const makeWater = useNewWater(membership.programme);
  const errors = fieldErrors(make.error);
  const { register, control, handleSubmit, watch } = useForm({
    defaultValues: {
      name: "",
      question: (plan.questions[0]?.value ?? "") as Schemas["NewSurveyRequest"]["question"],
      water: options.waters[0]?.id ?? "",
      water_name: "",
      water_kind: "river" as Schemas["NewWaterRequest"]["kind"],
      gear: (options.gears[0]?.code ?? "") as Schemas["NewSurveyRequest"]["gear"],
      first: "",
      last: "",
      visits: "1",
      species: options.species.slice(0, 1).map(({ code }) => code),
    },
  });
  const newWater = watch("water") === "";
  const save = handleSubmit(async ({ water: known, water_name, water_kind, visits, ...given }) => {
    const water = newWater
      ? // made by an earlier try whose plan was refused, or now
        (makeWater.data ?? (await makeWater.mutateAsync({ name: water_name, kind: water_kind }).catch(() => null)))?.id
      : known;
    if (!water) return; // the refusal is shown below
    make.mutate(
      { ...given, water, visits: Number(visits) || 1, effort_s: 900 },
      { onSuccess: (survey) => navigate({ to: "/plan/$survey", params: { survey: survey.id } }) },
    );
  });
  const day = (name: "first" | "last", label: string) => (
    <Controller
      control={control}
      name={name}
      rules={{ required: true }}
      render={({ field }) => (
        <DayField label={label} required value={field.value} onDay={field.onChange} error={errors[name]} />
      )}
    />
  );
  return (
    <form onSubmit={save} className="grid gap-3">
      <Field label="Name" required maxLength={120} error={errors.name} {...register("name")} />
      <Choice label="Question" error={errors.question} {...register("question")}>
        {plan.questions.map(({ value, label }) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </Choice>
      <div className="grid grid-cols-2 gap-3">
        <Choice label="Water" error={errors.water} {...register("water")}>
          {options.waters.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          <option value="">a new water...</option>
        </Choice>
        <Choice label="Gear" error={errors.gear} {...register("gear")}>
          {options.gears.map(({ code, label }) => (
            <option key={code} value={code}>
              {label}
            </option>
          ))}
        </Choice>
        {day("first", "First day")}
        {day("last", "Last day")}
        <Field label="Visits" type="number" min={1} max={60} error={errors.visits} {...register("visits")} />
      </div>
      {newWater && (
        <div className="grid grid-cols-2 gap-3 border-l-4 border-line pl-3">
          <Field label="Name of the water" required maxLength={120} {...register("water_name")} />
          <Choice label="Kind of water" {...register("water_kind")}>
            <option value="river">river</option>
            <option value="lake">lake</option>
            <option value="coast">coast</option>
          </Choice>
        </div>
      )}
      <fieldset className="flex flex-wrap gap-x-4">
        <legend className="text-sm text-muted">Species</legend>
        {options.species.map(({ code, name }) => (
          <label key={code} className="flex min-h-9 items-center gap-2">
            <input type="checkbox" value={code} className="size-5" {...register("species")} />
            {name}
          </label>
        ))}
      </fieldset>
      <Refusal failure={makeWater.error} fields={[]} />
      <Refusal failure={make.error} fields={FIELDS} />
      {errors.species && (
        <p role="alert" className="text-sm text-signal">
          {errors.species}
        </p>
      )}
      <Button large look="ink" type="submit" disabled={make.isPending}>
        Create plan
      </Button>
    </form>
  );
}
