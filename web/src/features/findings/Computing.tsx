import type { Schemas } from "@/api/client";
import { JobProgress } from "@/ui/JobProgress";

interface Props {
  job: Schemas["Job"] | null;
  words: string;
  again: () => void;
}

/** A finding that is not there yet; one that takes long can be stopped. */
export function Computing({ job, words, again }: Props) {
  if (!job) return <p className="py-4 text-muted">{words}</p>;
  return (
    <div className="py-4">
      <p className="mb-2">Many fish: this takes a while. It continues in the background.</p>
      <JobProgress job={job} onStop={again} />
    </div>
  );
}
