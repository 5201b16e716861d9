import { useState } from "react";
import type { Schemas } from "@/api/client";
import { FishSheet } from "@/features/records";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatDay, formatGrams, formatMm, formatTime, plural } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { useFishStory } from "./queries";

type Encounter = Schemas["Encounter"];

const ENDED: Record<string, string> = {
  released: "released",
  retained: "kept or taken elsewhere",
  dead: "dead",
  lost: "lost",
};

/** A fish's life as it is known: its tags, and every time it was met, with growth and distance between. */
export function FishStorySheet({ fish, onClose }: { fish: string; onClose: () => void }) {
  const { data: story, error } = useFishStory(fish);
  const [opened, setOpened] = useState<string | null>(null);
  const { membership } = useHere();
  const { data: options } = useSelectionOptions(membership.programme);
  const species = options?.species.find(({ code }) => code === story?.species)?.name ?? story?.species;
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={
        story
          ? `${species}: met ${story.encounters.length === 1 ? "once" : `${story.encounters.length} times`}`
          : "Fish"
      }
      description={
        story
          ? story.marks
              .map((mark) => `${KINDS[mark.kind]} ${markText(mark)} since ${formatDay(mark.placed_at)}`)
              .join(", ")
          : "Reading..."
      }
    >
      {error && <ErrorMessage failure={error} />}
      <ol className="grid gap-2">
        {story?.encounters.toReversed().map((each) => (
          <li key={each.source} className="border-t border-line pt-2">
            <Meeting met={each} onOpen={() => setOpened(each.source)} />
          </li>
        ))}
      </ol>
      {opened && <FishSheet capture={opened} onClose={() => setOpened(null)} />}
    </Sheet>
  );
}

function Meeting({ met, onOpen }: { met: Encounter; onOpen: () => void }) {
  const sizes = [met.length_mm && formatMm(met.length_mm), met.mass_g && formatGrams(met.mass_g)].filter(Boolean);
  const { journey } = met;
  return (
    <>
      <p className="flex flex-wrap gap-x-4">
        <button
          type="button"
          className="min-h-8 cursor-pointer font-semibold underline underline-offset-4"
          onClick={onOpen}
        >
          {formatDay(met.at)}, {formatTime(met.at, met.time_zone)}
        </button>
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
