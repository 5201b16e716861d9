import { useState } from "react";
import { ApiError } from "@/api/client";
import { useHere } from "@/app/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { formatDay } from "@/ui/format";
import { ErrorMessage } from "@/ui/Message";
import { Numbers } from "./Numbers";
import { type Survey, useSurveyStep } from "./queries";
import { QUESTIONS } from "./questions";

/** The question, when and how often, the effort, and what it is to bring. */
export function DesignPart({ survey }: { survey: Survey }) {
  const step = useSurveyStep(survey.id);
  const refused = step.error instanceof ApiError ? step.error : null;
  const { question, visits, effort_s, revisit_years, first, last } = survey;
  const change = (body: object) => step.mutate({ what: "change", body });
  return (
    <div className="grid items-start gap-x-8 gap-y-5 lg:grid-cols-2">
      <section aria-label="Design" className="flex flex-col gap-3">
        <Numbers
          specs={[
            { name: "question", label: "Question", options: QUESTIONS, wide: true },
            { name: "visits", label: "Visits" },
            { name: "effort_s", label: "Current on, each site", unit: "s" },
            { name: "revisit_years", label: "Again every", unit: "years", optional: true },
          ]}
          values={{ question, visits, effort_s, revisit_years }}
          error={refused}
          onChange={change}
        />
        <div className="grid grid-cols-2 gap-3">
          <Field
            label="First day"
            type="date"
            value={first}
            onChange={(event) => change({ first: event.target.value })}
          />
          <Field label="Last day" type="date" value={last} onChange={(event) => change({ last: event.target.value })} />
        </div>
        {step.error && <ErrorMessage failure={step.error} />}
        <p className="text-lg">
          {survey.sites.length} sites × {visits} visits × {(effort_s / 60).toFixed(0)} min:{" "}
          {(survey.progress.effort_planned_s / 3600).toFixed(1)} h of current on in all.
        </p>
        <ul>
          {survey.days.map((each) => (
            <li
              key={`${each.first} ${each.words}`}
              className={`flex gap-4 border-t border-line py-1 ${each.what === "closed" ? "text-signal" : ""}`}
            >
              <span className="w-60 shrink-0">
                {formatDay(each.first)}
                {each.last !== each.first && ` to ${formatDay(each.last)}`}
              </span>
              {each.what === "closed" && "! "}
              {each.words}
            </li>
          ))}
        </ul>
      </section>
      <Targets survey={survey} onChange={(targets) => change({ parts: { targets } })} />
    </div>
  );
}

type Target = NonNullable<Survey["parts"]["targets"]>[number];

function Targets({ survey, onChange }: { survey: Survey; onChange: (targets: Target[]) => void }) {
  const { may } = useHere();
  const targets = survey.parts.targets ?? [];
  const [fresh, setFresh] = useState({ species: survey.species[0] ?? "", what: "measured", wanted: "", from: "" });
  const add = () => {
    onChange([
      ...targets,
      {
        species: fresh.species,
        what: fresh.what as Target["what"],
        wanted: Number(fresh.wanted),
        from_mm: fresh.from ? Number(fresh.from) : null,
      },
    ]);
    setFresh({ ...fresh, wanted: "", from: "" });
  };
  return (
    <section aria-label="Targets">
      <h2 className="text-lg font-semibold">Targets of the whole survey</h2>
      <ul>
        {targets.map((target, place) => (
          <li
            key={`${target.species} ${target.what} ${target.wanted}`}
            className="flex items-center gap-3 border-t border-line py-1.5"
          >
            {target.wanted} {target.species} {target.what}
            {target.from_mm !== null && target.from_mm !== undefined && ` from ${target.from_mm} mm`}
            <span className="text-sm text-muted">{Math.ceil(target.wanted / survey.visits)} a visit</span>
            {may("plan") && (
              <Button className="ml-auto" onClick={() => onChange(targets.filter((_, at) => at !== place))}>
                Take out
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may("plan") && (
        <div className="mt-2 grid grid-cols-[1fr_1fr_1fr_1fr_auto] items-end gap-2">
          <Choice
            label="Species"
            value={fresh.species}
            onChange={(event) => setFresh({ ...fresh, species: event.target.value })}
          >
            {survey.species.map((code) => (
              <option key={code}>{code}</option>
            ))}
          </Choice>
          <Choice
            label="to be"
            value={fresh.what}
            onChange={(event) => setFresh({ ...fresh, what: event.target.value })}
          >
            <option>measured</option>
            <option>marked</option>
          </Choice>
          <Field
            label="How many"
            inputMode="numeric"
            value={fresh.wanted}
            onChange={(event) => setFresh({ ...fresh, wanted: event.target.value })}
          />
          <Field
            label="From"
            unit="mm"
            inputMode="numeric"
            value={fresh.from}
            onChange={(event) => setFresh({ ...fresh, from: event.target.value })}
          />
          <Button large disabled={!(Number(fresh.wanted) > 0)} onClick={add}>
            Add
          </Button>
        </div>
      )}
    </section>
  );
}
