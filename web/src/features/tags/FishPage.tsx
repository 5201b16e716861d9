import { useState } from "react";
import type { Schemas } from "@/api/client";
import { FishLife, FishSheet, useFishStory, WhoseMarks } from "@/features/records";
import { useSelectionOptions } from "@/features/selection";
import { Layers, MapFrame, useLayers } from "@/features/waters";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { formatDay, formatInches, formatMm, plural } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS, STATES } from "@/ui/words/tag-kinds";
import { FishHandling } from "./FishHandling";
import { FishRibbon } from "./FishRibbon";
import { OneFish } from "./OneFish";

type Story = Schemas["FishStory"];

/** One fish: its life along time, its growth, where it was, its tags, every meeting. */
export function FishPage({ fish }: { fish: string }) {
  const { membership } = useHere();
  const { data: story, error } = useFishStory(fish);
  const { data: options } = useSelectionOptions(membership.programme);
  const [capture, setCapture] = useState<string | null>(null);
  if (error)
    return (
      <main className="p-4">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!story) return <main className="p-4 text-muted">Reading the fish...</main>;
  const species = options?.species.find(({ code }) => code === story.species)?.name ?? story.species;
  const mark = story.marks[0];
  return (
    <main className="mx-auto max-w-6xl px-4 py-3">
      <h1 className="text-xl font-semibold">
        {species}
        {mark && ` ${markText(mark)}`}
      </h1>
      <p>{summaryOf(story)}</p>
      {story.encounters.length > 0 && <FishRibbon encounters={story.encounters} />}
      <div className="mt-4 grid gap-x-8 gap-y-4 lg:grid-cols-2">
        <div>
          <section aria-label="Meetings">
            <h2 className="font-semibold">Meetings, the last first</h2>
            <FishLife story={story} onOpen={setCapture} />
          </section>
          <FishHandling story={story} />
        </div>
        <div>
          <Tags marks={story.marks} />
          <WhoseMarks marks={story.whose} />
          <Places story={story} />
          <OneFish story={story} />
        </div>
      </div>
      {capture && <FishSheet capture={capture} onClose={() => setCapture(null)} />}
    </main>
  );
}

/** How often it was met, and how much it grew between its first and its last measured length, in both units. */
function summaryOf({ encounters }: Story): string {
  const measured = encounters.filter(({ length_mm }) => length_mm !== null);
  const [first, last] = [measured[0], measured.at(-1)];
  const times = encounters.length === 1 ? "Met once" : `Met ${encounters.length} times`;
  if (!first || !last || first === last) return `${times}.`;
  const mm = last.length_mm! - first.length_mm!;
  const days = Math.round((Date.parse(last.at) - Date.parse(first.at)) / 86_400_000);
  const grown = `${mm >= 0 ? "+" : "−"}${formatMm(Math.abs(mm))} (${formatInches(Math.abs(mm))})`;
  return `${times}; ${formatMm(first.length_mm!)} to ${formatMm(last.length_mm!)}, ${grown} in ${plural(days, "day")}.`;
}

function Tags({ marks }: Pick<Story, "marks">) {
  return (
    <section aria-label="Tags">
      <h2 className="font-semibold">Tags</h2>
      <ul>
        {marks.map((mark) => (
          <li key={`${mark.kind} ${mark.number}`} className="border-t border-line py-1.5">
            <span className="font-semibold tabular-nums">
              {KINDS[mark.kind]} {markText(mark)}
            </span>{" "}
            <span className="text-muted">
              {[
                mark.placed_at ? `placed ${formatDay(mark.placed_at)}` : "of another programme",
                mark.body_site,
                mark.quality && `placement ${mark.quality === "second" ? "second try" : mark.quality}`,
                STATES[mark.state]!.toLowerCase(),
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Places({ story: { encounters } }: { story: Story }) {
  const { membership } = useHere();
  const layers = useLayers(membership.programme);
  const placed = encounters.flatMap(({ lat, lon, source, at }) =>
    lat !== null && lon !== null ? [{ source, at, point: [lon, lat] as const }] : [],
  );
  if (!placed.length) return null;
  const ground = layers.flatMap(({ line }) => line);
  return (
    <section aria-label="Where it was" className="mt-4">
      <h2 className="font-semibold">Where it was</h2>
      <MapFrame label="Where the fish was met" points={[...ground, ...placed.map(({ point }) => point)]}>
        {(place) => {
          const at = placed.map(({ point }) => place(...point));
          return (
            <>
              <Layers layers={layers} place={place} />
              <path
                d={`M${at.map((each) => each.join(" ")).join("L")}`}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="2"
                strokeDasharray="6 5"
              />
              {at.map(([x, y], order) => (
                <g key={placed[order]!.source}>
                  <circle
                    cx={x}
                    cy={y}
                    r="10"
                    fill={order ? "var(--data)" : "var(--signal)"}
                    stroke="var(--paper)"
                    strokeWidth="2"
                  >
                    <title>{formatDay(placed[order]!.at)}</title>
                  </circle>
                </g>
              ))}
            </>
          );
        }}
      </MapFrame>
      <p className="text-sm text-muted">
        <span className="text-signal" aria-hidden="true">
          ●
        </span>{" "}
        first, ● later; the line joins them in order of time.
      </p>
    </section>
  );
}
