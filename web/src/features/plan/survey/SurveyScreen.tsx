import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { lazy, Suspense, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { type Survey, usePlanAgain, useSurvey, useTakeOut } from "../queries";
import { PARTS, type Part } from "../survey-search";
import { DesignPart } from "./DesignPart";
import { GoPart } from "./GoPart";
import { KitPart } from "./KitPart";
import { partStates } from "./part-states";
import { SitesPart } from "./SitesPart";

const SettingsPart = lazy(async () => ({ default: (await import("./SettingsPart")).SettingsPart }));
const EnoughPart = lazy(async () => ({ default: (await import("./EnoughPart")).EnoughPart }));
const RehearsalPart = lazy(async () => ({ default: (await import("./RehearsalPart")).RehearsalPart }));

const NAMES: Record<Part, string> = {
  design: "Question and targets",
  sites: "Reach and sites",
  settings: "Settings",
  enough: "How much is enough",
  rehearsal: "Rehearsal",
  kit: "Baths and tags",
  go: "People, sheet, outing",
};
const route = getRouteApi("/plan/$survey");

/** One survey, part by part in the order in which it is decided. */
export function SurveyScreen() {
  const { survey: id } = route.useParams();
  const { part = "sites" } = route.useSearch();
  const { data: survey, error } = useSurvey(id);
  const { may } = useHere();
  const states = survey && partStates(survey);
  return (
    <main className="px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <Link to="/plan" className="underline underline-offset-4">
          Plan
        </Link>
        {survey && (
          <>
            <h1 className="text-xl font-semibold">{survey.name}</h1>
            <span className="text-muted">
              {survey.question_label}; {survey.water_name}; {formatDay(survey.first)} to {formatDay(survey.last)};{" "}
              {survey.visits} {survey.visits === 1 ? "visit" : "visits"}
            </span>
            {may("plan") && <Whole survey={survey} />}
          </>
        )}
      </div>
      <nav aria-label="Parts of the survey" className="mt-2 flex flex-wrap gap-x-5 border-b border-line text-lg">
        {PARTS.map((each) => (
          <Link
            key={each}
            to="/plan/$survey"
            params={{ survey: id }}
            search={{ part: each }}
            aria-current={each === part ? "page" : undefined}
            className={`border-b-2 pb-1 ${each === part ? "border-ink font-semibold" : "border-transparent hover:border-line"}`}
          >
            {NAMES[each]}
            {states?.[each] && (
              <span className={`block text-sm font-normal ${states[each].waits ? "text-signal" : "text-muted"}`}>
                {states[each].waits && "! "}
                {states[each].words}
              </span>
            )}
          </Link>
        ))}
      </nav>
      {error && <ErrorMessage failure={error} />}
      {!survey && !error && <p className="py-4 text-muted">Reading the plan...</p>}
      {survey && (
        <Suspense fallback={<p className="py-4 text-muted">Reading...</p>}>
          <div className="pt-3">
            {part === "design" && <DesignPart survey={survey} />}
            {part === "sites" && <SitesPart survey={survey} />}
            {part === "settings" && <SettingsPart survey={survey} />}
            {part === "enough" && <EnoughPart survey={survey} />}
            {part === "rehearsal" && <RehearsalPart survey={survey} />}
            {part === "kit" && <KitPart survey={survey} />}
            {part === "go" && <GoPart survey={survey} />}
          </div>
        </Suspense>
      )}
    </main>
  );
}

/** What is done with a survey as a whole: planned again for another year, or taken out of the plans. */
function Whole({ survey }: { survey: Survey }) {
  const navigate = useNavigate();
  const again = usePlanAgain(survey.id);
  const takeOut = useTakeOut(survey.id);
  const [asking, setAsking] = useState(false);
  const [first, setFirst] = useState("");
  const plan = async () => {
    const made = await again.mutateAsync(first).catch(() => null); // the refusal is shown below
    if (!made) return;
    setAsking(false);
    await navigate({ to: "/plan/$survey", params: { survey: made.id } });
  };
  const out = async () => {
    await takeOut.mutateAsync(true);
    await navigate({ to: "/plan" });
    notify(`${survey.name} is out of the plans; its outings stay.`, () => void takeOut.mutateAsync(false));
  };
  return (
    <span className="ml-auto flex gap-2">
      <Button onClick={() => setAsking(true)}>Repeat survey</Button>
      <Button onClick={out} disabled={takeOut.isPending}>
        Delete survey
      </Button>
      {asking && (
        <Sheet
          open
          onOpenChange={setAsking}
          title="Repeat survey"
          description="The same choices and the same sites from another day on, so that the years can be compared."
        >
          <div className="grid gap-3">
            <DayField label="First day" value={first} onDay={setFirst} />
            {again.error && <ErrorMessage failure={again.error} />}
            <Button large look="ink" disabled={!first || again.isPending} onClick={plan}>
              Create plan
            </Button>
          </div>
        </Sheet>
      )}
    </span>
  );
}
