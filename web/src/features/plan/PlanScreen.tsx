import { Link } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Permits } from "@/features/permits";
import { usePlan } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { gearOf } from "@/ui/words/gears";
import { NewSeason } from "./NewSeason";
import { NewSurvey } from "./NewSurvey";
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
