import type { ReactNode } from "react";
import { answer, api } from "@/api/client";
import { asQuery } from "@/features/selection";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { Computing } from "./Computing";
import type { FindingProps } from "./finding-screens";
import { useFinding } from "./use-finding";

interface Props<Finding> {
  /** As the server names it. */
  kind: string;
  selection: FindingProps["selection"];
  /** What is done meanwhile. */
  words: string;
  children: (finding: Finding, stale: boolean) => ReactNode;
}

/** Asks one kind of finding that has no bins, and shows it once it is there; until then how far it is, or why there is none. */
export function Asked<Finding extends object>({ kind, selection, words, children }: Props<Finding>) {
  const { membership } = useHere();
  const { bin_mm: _, ...asked } = selection;
  const { finding, job, error, isPlaceholderData, again } = useFinding<Finding>(
    [kind, membership.programme, asked],
    () =>
      answer(
        // every kind is asked the same way; its shape is what the caller says
        api.GET(
          `/api/v1/programmes/{programme_id}/findings/${kind}` as "/api/v1/programmes/{programme_id}/findings/size",
          {
            params: { path: { programme_id: membership.programme }, query: asQuery(asked) as never },
          },
        ),
      ) as Promise<never>,
  );
  if (error)
    return (
      <div className="py-4">
        <ErrorMessage failure={error} />
      </div>
    );
  if (!finding) return <Computing job={job} words={words} again={again} />;
  return children(finding, isPlaceholderData);
}
