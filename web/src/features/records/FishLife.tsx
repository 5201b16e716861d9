import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { formatDay, formatGrams, formatMm, formatTime, plural } from "@/ui/words/format";

type Encounter = Schemas["Encounter"];

const ENDED: Record<string, string> = {
  released: "released",
  retained: "kept or taken elsewhere",
  dead: "dead",
  lost: "lost",
};

interface Props {
  story: Schemas["FishStory"];
  /** The capture that is shown already. */
  here?: string;
  onOpen: (capture: string) => void;
}

/** Every time a fish was met, the last first, with growth and distance between. */
export function FishLife({ story, here, onOpen }: Props) {
  return (
    <ol className="grid gap-2">
      {story.encounters.toReversed().map((each) => (
        <li key={each.source} className="border-t border-line pt-2">
          <Meeting met={each} here={each.source === here} onOpen={() => onOpen(each.source)} />
        </li>
      ))}
    </ol>
  );
}

function Meeting({ met, here, onOpen }: { met: Encounter; here: boolean; onOpen: () => void }) {
  const sizes = [met.length_mm && formatMm(met.length_mm), met.mass_g && formatGrams(met.mass_g)].filter(Boolean);
  const { journey } = met;
  return (
    <>
      <p className="flex flex-wrap gap-x-4">
        {here ? (
          <strong>
            {formatDay(met.at)}, {formatTime(met.at, met.time_zone)} (this one)
          </strong>
        ) : met.kind === "return" ? (
          <Link
            to="/tags/returns"
            search={{ box: "all", report: met.source }}
            className="inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4"
          >
            {formatDay(met.at)}, reported by its finder
          </Link>
        ) : met.kind === "card" ? (
          <strong>{formatDay(met.at)}, card of a volunteer</strong>
        ) : (
          <button
            type="button"
            className="min-h-[44px] cursor-pointer font-semibold underline underline-offset-4"
            onClick={onOpen}
          >
            {formatDay(met.at)}, {formatTime(met.at, met.time_zone)}
          </button>
        )}
        <span>
          {[met.site, met.water].filter(Boolean).join(", ")}
          {met.river_km !== null && `, km ${met.river_km}`}
        </span>
        <span className="tabular-nums">{sizes.join(", ") || "not measured"}</span>
        <span className={met.disposition === "dead" ? "font-semibold text-signal" : "text-muted"}>
          {ENDED[met.disposition ?? ""] ?? "how it left was not recorded"}
        </span>
      </p>
      {journey && (
        <p className="text-sm text-muted">
          {journey.days < 1 ? "The same day" : `${plural(Math.round(journey.days), "day")} after the time before`}
          {journey.growth_mm !== null &&
            `, ${journey.growth_mm >= 0 ? "+" : "−"}${Math.abs(journey.growth_mm).toFixed(0)} mm`}
          {journey.growth_mm_month !== null && ` (${journey.growth_mm_month.toFixed(1)} mm a month)`}
          {journey.distance_m !== null &&
            (journey.moved === "moved"
              ? `, ${(journey.distance_m / 1000).toFixed(1)} km away`
              : ", where it was met before")}
        </p>
      )}
    </>
  );
}
