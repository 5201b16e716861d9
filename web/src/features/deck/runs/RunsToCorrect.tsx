import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { formatSeconds, formatTime } from "@/ui/words/format";
import { effortWords, gearOf } from "@/ui/words/gears";
import type { DeckStore, DeckView } from "../document/deck-store";
import { RunSheet } from "../sheets";

/** The runs of a closed outing while its record is corrected. */
export function RunsToCorrect({ store, view }: { store: DeckStore; view: DeckView }) {
  const { runs, sites, outing } = view.document;
  const [opened, setOpened] = useState<Schemas["Run"] | null>(null);
  return (
    <section aria-label="Runs" className="border-b border-line px-4 py-1">
      <ul className="flex flex-wrap gap-x-6">
        {runs.map((run) => (
          <li key={run.id} className="flex items-center gap-2">
            <span>
              <strong>Run {run.number}</strong> {sites.find(({ id }) => id === run.site)?.name},{" "}
              {formatTime(run.started_at, outing.time_zone)}
              {run.ended_at && ` to ${formatTime(run.ended_at, outing.time_zone)}`}
              <span className="text-muted">
                {" "}
                {gearOf(run.gear).electric
                  ? `${formatSeconds(run.current_on_s ?? 0)} min:s on`
                  : effortWords(run.effort)}
              </span>
            </span>
            <Button aria-label={`Edit run ${run.number}`} onClick={() => setOpened(run)}>
              Edit
            </Button>
          </li>
        ))}
      </ul>
      {opened && <RunSheet store={store} view={view} run={opened} onClose={() => setOpened(null)} />}
    </section>
  );
}
