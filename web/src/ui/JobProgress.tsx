import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { whole } from "@/ui/words/format";
import { Button } from "./Button";
import { ErrorMessage } from "./Message";

export type Job = Schemas["Job"];

export const isGoing = (job: Job | null | undefined) => job?.state === "waiting" || job?.state === "running";

/** As work ends, everything that is shown may have changed by it. */
function useNewsOf(going: boolean) {
  const client = useQueryClient();
  const before = useRef(going);
  useEffect(() => {
    if (before.current && !going) void client.invalidateQueries();
    before.current = going;
  }, [client, going]);
}

/** How far long work is, with a stop; how it ended where it did not end well. Without ``of`` nobody counts how far it is. */
export function JobProgress({ job, of, onStop }: { job: Job; of?: string; onStop: () => void }) {
  useNewsOf(isGoing(job));
  const stop = useMutation({
    mutationFn: () => answer(api.POST("/api/v1/jobs/{job_id}/stop", { params: { path: { job_id: job.id } } })),
    onSuccess: onStop,
  });
  if (job.state === "failed") return <ErrorMessage failure={new Error(job.error?.message ?? "It failed.")} />;
  if (job.state === "stopped") return <p className="text-muted">Stopped. Nothing of it was stored.</p>;
  if (!isGoing(job)) return null;
  const known = of !== undefined && job.total > 0;
  return (
    <div className="flex flex-wrap items-center gap-3" role="status">
      <progress
        className="h-3 w-64"
        aria-label={job.title}
        value={known ? job.done : undefined}
        max={known ? job.total : undefined}
      />
      <span>
        {job.stop_asked
          ? "Stopping..."
          : job.state === "waiting"
            ? "Waiting for the worker..."
            : of === undefined
              ? "Working..."
              : `${whole(job.done)}${known ? ` of ${whole(job.total)}` : ""} ${of}`}
      </span>
      <Button onClick={() => stop.mutate()} disabled={job.stop_asked || stop.isPending}>
        Stop
      </Button>
    </div>
  );
}
