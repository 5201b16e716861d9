import { useState } from "react";
import { ApiError } from "@/api/client";
import { ReachMap, ReachStrip, useLayers, useReach, WaterPart } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { NumberField } from "@/ui/NumberField";
import { Sheet } from "@/ui/Sheet";
import { Numbers } from "../Numbers";
import { type Survey, useSurveyStep } from "../queries";

const LAYOUTS = [
  { value: "systematic", label: "Systematic from a random start" },
  { value: "regular", label: "Regular from the start" },
  { value: "random", label: "Simple random" },
  { value: "stratified", label: "Random within each zone" },
];

/** Sites along the water: laid out by rule, shown on map and strip, one moved by hand with a reason. */
export function SitesPart({ survey }: { survey: Survey }) {
  const { may } = useHere();
  const { data: reach, error } = useReach(survey.water);
  const layers = useLayers(survey.programme);
  const step = useSurveyStep(survey.id);
  const [chosen, setChosen] = useState<number | null>(null);
  const layout = survey.parts.layout!;
  const refused = step.error instanceof ApiError ? step.error : null;
  return (
    <div className="grid items-start gap-x-6 gap-y-3 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <section aria-label="Layout" className="flex flex-col gap-3">
        <Numbers
          specs={[
            { name: "layout", label: "How", options: LAYOUTS, wide: true },
            { name: "n", label: "How many (or as fit)", optional: true },
            { name: "seed", label: "Seed" },
            { name: "site_length_m", label: "Site", unit: "m" },
            { name: "gap_m", label: "Gap between sites", unit: "m" },
            { name: "from_km", label: "From", unit: "km" },
            { name: "to_km", label: "To", unit: "km", optional: true },
          ]}
          values={layout}
          error={refused}
          onChange={(next) => step.mutate({ what: "change", body: { parts: { layout: next } } })}
        />
        {may("plan") && (
          <Button large look="ink" onClick={() => step.mutate({ what: "sites" })} disabled={step.isPending}>
            Lay the sites out
          </Button>
        )}
        {step.error && <ErrorMessage failure={step.error} />}
        <p className="text-sm text-muted">
          {survey.sites.length} sites. The same seed gives the same sites.{" "}
          {survey.revisit_years && `Revisited every ${survey.revisit_years} years.`}
        </p>
        <ol className="max-h-80 overflow-y-auto border-t border-line">
          {survey.sites.map((site) => (
            <li key={site.number}>
              <button
                type="button"
                className={`flex min-h-[44px] w-full cursor-pointer items-center gap-3 border-b border-line py-1 text-left hover:bg-wash ${site.number === chosen ? "bg-wash font-semibold" : ""}`}
                onClick={() => setChosen(site.number)}
              >
                <span className="w-6 text-right">{site.number}</span>
                <span>
                  km {(site.start_m / 1000).toFixed(2)} to {(site.end_m / 1000).toFixed(2)}
                </span>
                <span className="text-sm text-muted">
                  {[site.moved ? "moved" : site.zone, cutTo(site, survey.sites)].filter(Boolean).join(", ")}
                </span>
              </button>
            </li>
          ))}
        </ol>
        <p>
          <a className="underline underline-offset-4" href={`/api/v1/surveys/${survey.id}/sites.gpx`} download>
            GPX for the boat
          </a>
        </p>
      </section>
      <div className="min-w-0">
        {error && <ErrorMessage failure={error} />}
        {reach && (
          <>
            <ReachStrip reach={reach} sites={survey.sites} chosen={chosen} onChoose={setChosen} />
            <ReachMap reach={reach} layers={layers} sites={survey.sites} chosen={chosen} onChoose={setChosen} />
          </>
        )}
        {may("plan") && <WaterPart water={survey.water} kind={survey.water_kind} reach={reach} layers={layers} />}
      </div>
      {chosen !== null && <MoveSite survey={survey} number={chosen} onClose={() => setChosen(null)} />}
    </div>
  );
}

function MoveSite({ survey, number, onClose }: { survey: Survey; number: number; onClose: () => void }) {
  const { may } = useHere();
  const step = useSurveyStep(survey.id);
  const site = survey.sites.find((each) => each.number === number);
  const [km, setKm] = useState<number | null>(site ? Number((site.start_m / 1000).toFixed(3)) : null);
  const [reason, setReason] = useState("");
  if (!site) return null;
  const move = async () => {
    const done = await step
      .mutateAsync({ what: "move", body: { number, start_m: (km ?? 0) * 1000, reason } })
      .catch(() => null); // the refusal is shown below
    if (done) onClose();
  };
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={`Site ${number}`}
      description={`km ${(site.start_m / 1000).toFixed(2)} to ${(site.end_m / 1000).toFixed(2)}${site.zone ? `, ${site.zone}` : ""}${site.moved ? `; moved: ${site.moved}` : ""}`}
    >
      {may("plan") && (
        <div className="grid gap-3">
          <NumberField live label="Start it at" unit="km" optional value={km} onNumber={setKm} />
          <Field
            label="Reason for the move"
            value={reason}
            maxLength={200}
            placeholder="no access from the road"
            onChange={(event) => setReason(event.target.value)}
          />
          {step.error && <ErrorMessage failure={step.error} />}
          <Button large look="ink" onClick={move} disabled={km === null || step.isPending}>
            Move the site
          </Button>
        </div>
      )}
    </Sheet>
  );
}

type Stretch = { start_m: number; end_m: number };

/** Said of a site that hung over an end of the reach: it is shorter than the others. */
function cutTo({ start_m, end_m }: Stretch, sites: Stretch[]): string {
  const longest = Math.max(...sites.map((each) => each.end_m - each.start_m));
  return end_m - start_m < longest - 1 ? `cut at the end, ${Math.round(end_m - start_m)} m` : "";
}
