import { Link, useNavigate } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { Permits } from "@/features/permits";
import { usePlan } from "@/features/programme";
import { useSelectionOptions } from "@/features/selection";
import { useNewWater } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Empty, ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { gearOf } from "@/ui/words/gears";
import { useNewSeason, useNewSurvey } from "./queries";
import { YearStrip } from "./YearStrip";

/** Surveys that are planned, the days they ask for, and permits. */
export function PlanScreen() {
  const { membership, may } = useHere();
  const { data: plan, error } = usePlan(membership.programme);
  const [adding, setAdding] = useState<"survey" | "season" | null>(null);
  if (error)
    return (
      <main className="p-6">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!plan) return <main className="p-6 text-muted">Reading the plans...</main>;
  return (
    <main className="mx-auto max-w-6xl px-4 py-4">
      <div className="flex items-center justify-between gap-3">
        <h1 className="text-2xl font-semibold">Plan</h1>
        {may("plan") && (
          <Button large look="ink" onClick={() => setAdding("survey")}>
            Plan a survey
          </Button>
        )}
      </div>
      <SurveyList surveys={plan.surveys} />
      {may("plan") && (
        <div className="mt-4 flex justify-end">
          <Button onClick={() => setAdding("season")}>Add season</Button>
        </div>
      )}
      <YearStrip surveys={plan.surveys} seasons={plan.seasons} />
      <Permits permits={plan.permits} people={plan.people} />
      {adding === "survey" && <NewSurvey onClose={() => setAdding(null)} />}
      {adding === "season" && <NewSeason onClose={() => setAdding(null)} />}
    </main>
  );
}

function SurveyList({ surveys }: { surveys: Schemas["Plan"]["surveys"] }) {
  if (!surveys.length)
    return <Empty>No survey is planned. Begin with the question it shall answer and the water.</Empty>;
  return (
    <ul className="mt-2">
      {surveys.map((survey) => (
        <li key={survey.id} className="flex flex-wrap items-center gap-x-6 gap-y-1 border-t border-line py-3">
          <div className="min-w-72">
            <Link
              to="/plan/$survey"
              params={{ survey: survey.id }}
              className="text-lg font-semibold underline decoration-line underline-offset-4 hover:decoration-ink"
            >
              {survey.name}
            </Link>
            <p className="text-muted">
              {survey.question_label}; {survey.water_name}; {gearOf(survey.gear).label.toLowerCase()}
            </p>
          </div>
          <span>
            {formatDay(survey.first)} to {formatDay(survey.last)}
          </span>
          <span>
            {survey.visits} {survey.visits === 1 ? "visit" : "visits"}
          </span>
        </li>
      ))}
    </ul>
  );
}

function NewSurvey({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const navigate = useNavigate();
  const make = useNewSurvey(membership.programme);
  const makeWater = useNewWater(membership.programme);
  const { data: plan } = usePlan(membership.programme);
  const [newWater, setNewWater] = useState(false);
  const { data: options } = useSelectionOptions(membership.programme);
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const text = (name: string) => String(given.get(name) ?? "");
    const kind = text("water_kind") as Schemas["NewWaterRequest"]["kind"];
    const water = newWater
      ? // made by an earlier try whose plan was refused, or now
        (makeWater.data ?? (await makeWater.mutateAsync({ name: text("water_name"), kind }).catch(() => null)))?.id
      : text("water");
    if (!water) return; // the refusal is shown below
    const survey = await make
      .mutateAsync({
        name: text("name"),
        water,
        question: text("question") as Schemas["NewSurveyRequest"]["question"],
        gear: text("gear") as Schemas["NewSurveyRequest"]["gear"],
        species: given.getAll("species").map(String),
        first: text("first"),
        last: text("last"),
        visits: Number(text("visits")) || 1,
        effort_s: 900,
      })
      .catch(() => null); // the refusal is shown below
    if (survey) navigate({ to: "/plan/$survey", params: { survey: survey.id } });
  };
  return (
    <Sheet open onOpenChange={onClose} title="Plan a survey" description="What shall it answer, where, and when?">
      <form onSubmit={save} className="grid gap-3">
        <Field label="Name" name="name" required maxLength={120} />
        <Choice label="Question" name="question">
          {plan?.questions.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </Choice>
        <div className="grid grid-cols-2 gap-3">
          <Choice label="Water" name="water" onChange={(event) => setNewWater(event.target.value === "")}>
            {options?.waters.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
            <option value="">a new water...</option>
          </Choice>
          <Choice label="Gear" name="gear">
            {options?.gears.map(({ code, label }) => (
              <option key={code} value={code}>
                {label}
              </option>
            ))}
          </Choice>
          <DayField label="First day" name="first" required />
          <DayField label="Last day" name="last" required />
          <Field label="Visits" name="visits" type="number" min={1} max={60} defaultValue={1} />
        </div>
        {newWater && (
          <div className="grid grid-cols-2 gap-3 border-l-4 border-line pl-3">
            <Field label="Name of the water" name="water_name" required maxLength={120} />
            <Choice label="Kind of water" name="water_kind">
              <option value="river">river</option>
              <option value="lake">lake</option>
              <option value="coast">coast</option>
            </Choice>
          </div>
        )}
        <fieldset className="flex flex-wrap gap-x-4">
          <legend className="text-sm text-muted">Species</legend>
          {options?.species.map(({ code, name }, place) => (
            <label key={code} className="flex min-h-9 items-center gap-2">
              <input type="checkbox" name="species" value={code} defaultChecked={place === 0} className="size-5" />
              {name}
            </label>
          ))}
        </fieldset>
        {makeWater.error && <ErrorMessage failure={makeWater.error} />}
        {make.error && <ErrorMessage failure={make.error} />}
        <Button large look="ink" type="submit" disabled={make.isPending || !options}>
          Begin the plan
        </Button>
      </form>
    </Sheet>
  );
}

/** Days of the year that a rule closes, or in which fish spawn. */
function NewSeason({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const make = useNewSeason(membership.programme);
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
    const done = await make
      .mutateAsync({
        kind: given.kind as Schemas["NewSeasonRequest"]["kind"],
        name: given.name!,
        water: null,
        first_day: given.first!.slice(5),
        last_day: given.last!.slice(5),
      })
      .catch(() => null); // the refusal is shown below
    if (done) onClose();
  };
  return (
    <Sheet open onOpenChange={onClose} title="Add season" description="It comes again every year on these days">
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <Choice label="Kind" name="kind">
          <option value="closed">closed by rule</option>
          <option value="spawning">spawning</option>
        </Choice>
        <Field label="What" name="name" required maxLength={120} />
        <DayField label="First day (any year)" name="first" required />
        <DayField label="Last day (any year)" name="last" required />
        {make.error && (
          <div className="col-span-2">
            <ErrorMessage failure={make.error} />
          </div>
        )}
        <Button large look="ink" type="submit" disabled={make.isPending} className="col-span-2">
          Save
        </Button>
      </form>
    </Sheet>
  );
}
