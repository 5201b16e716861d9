import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { eventWords, SHOWS, sourceOf } from "@/features/deck";
import { ErrorMessage } from "@/ui/Message";
import { formatTime } from "@/ui/words/format";
import { FishLife } from "./FishLife";
import { useFishStory } from "./queries";

type Fish = Schemas["CaptureInPlace"];

/** What was done to a fish and seen of it, and every other time it was met. */
export function FishRecord({ fish, onOpen }: { fish: Fish; onOpen: (capture: string) => void }) {
  const { data: story, error } = useFishStory(fish.capture.fish);
  return (
    <>
      <Log fish={fish} />
      {fish.photos.length > 0 && (
        <ul aria-label="Photos" className="mt-3 flex flex-wrap gap-2">
          {fish.photos.map((photo) => (
            <li key={photo.id}>
              <a href={sourceOf(photo)} target="_blank" rel="noreferrer">
                <img
                  src={sourceOf(photo, true)}
                  alt={SHOWS.find(([code]) => code === photo.shows)?.[1] ?? "Photo"}
                  className="h-24 rounded-sm border border-line object-cover"
                />
              </a>
            </li>
          ))}
        </ul>
      )}
      {error && <ErrorMessage failure={error} />}
      {story && story.encounters.length > 1 && (
        <section aria-label="Other captures of this fish" className="mt-3">
          <h3 className="font-semibold">Captured {story.encounters.length} times</h3>
          <FishLife story={story} here={fish.capture.id} onOpen={onOpen} />
        </section>
      )}
      <p className="mt-3">
        <Link
          to="/deck/$outing"
          params={{ outing: fish.outing }}
          search={{ fish: fish.capture.id }}
          className="inline-flex min-h-[44px] items-center underline underline-offset-4"
        >
          Open this fish in its outing: tags, events, photos and their correction
        </Link>
      </p>
    </>
  );
}

function Log({ fish }: { fish: Fish }) {
  if (!fish.events.length) return null;
  return (
    <section aria-label="Event log" className="mt-3">
      <h3 className="font-semibold">Event log</h3>
      <ul>
        {fish.events.map((event) => (
          <li key={event.id} className="flex gap-3 border-t border-line py-1">
            <span className="text-muted">{formatTime(event.device_time, fish.time_zone)}</span>
            <span>
              <strong>{fish.event_kinds.find(({ code }) => code === event.kind)?.title ?? event.kind}</strong>{" "}
              {eventWords(fish, event)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
