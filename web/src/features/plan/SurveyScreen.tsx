import { getRouteApi, Link } from "@tanstack/react-router";
import { lazy, Suspense } from "react";
import { formatDay } from "@/ui/format";
import { ErrorMessage } from "@/ui/Message";
import { DesignPart } from "./DesignPart";
import { GoPart } from "./GoPart";
import { KitPart } from "./KitPart";
import { useSurvey } from "./queries";
import { SitesPart } from "./SitesPart";
import { PARTS, type Part } from "./survey-search";

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
