import type { Schemas } from "@/api/client";
import { formatDay } from "@/ui/words/format";
import { useFishHandling } from "./queries";

type Story = Schemas["FishStory"];

/** Photos of a fish, who handled it at each meeting and how. */
export function FishHandling({ story }: { story: Story }) {
  const { data } = useFishHandling(story.id);
  if (!data) return null;
  const at = new Map(story.encounters.map(({ source, at }) => [source, at]));
  const meetings = data.meetings.flatMap((each) =>
    at.has(each.meeting) ? [{ ...each, at: at.get(each.meeting)! }] : [],
  );
  return (
    <>
      {data.photos.length > 0 && (
        <section aria-label="Photos" className="mt-4">
          <h2 className="font-semibold">Photos</h2>
          <ul className="grid grid-cols-2 gap-2 sm:grid-cols-3">
            {data.photos.map(({ address, small, shows, at }) => (
              <li key={address} className="border border-line bg-raised p-1 text-sm">
                <a href={address} target="_blank" rel="noreferrer">
                  <img
                    src={small}
                    alt={`${shows}, ${formatDay(at)}`}
                    loading="lazy"
                    className="h-28 w-full object-cover"
                  />
                </a>
                {shows}, {formatDay(at)}
              </li>
            ))}
          </ul>
        </section>
      )}
      {meetings.length > 0 && (
        <section aria-label="Handling" className="mt-4">
          <h2 className="font-semibold">Handling</h2>
          <ul>
            {meetings.toReversed().map(({ meeting, at, lines, people }) => (
              <li key={meeting} className="border-t border-line py-1.5">
                <p>
                  <span className="font-semibold">{formatDay(at)}</span>{" "}
                  <span className="text-muted">{people.join(", ")}</span>
                </p>
                {lines.length > 0 ? <p>{lines.join(" ")}</p> : <p className="text-muted">No handling recorded.</p>}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
