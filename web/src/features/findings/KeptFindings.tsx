import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { answer, api } from "@/api/client";
import { fromQuery } from "@/features/selection";
import { useHere } from "@/session";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";

/** What was kept, as it was said then, and whether the rows behind it have changed since. */
export function KeptFindings() {
  const { membership } = useHere();
  const { data: kept, error } = useQuery({
    queryKey: ["kept-findings", membership.programme],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/kept-findings", {
          params: { path: { programme_id: membership.programme } },
        }),
      ),
  });
  if (error)
    return (
      <div className="py-4">
        <ErrorMessage failure={error} />
      </div>
    );
  if (!kept) return <p className="py-4 text-muted">Reading...</p>;
  if (!kept.length) return <Empty>Nothing is kept yet. Below each finding stands "Keep this finding".</Empty>;
  return (
    <ul className="mt-2">
      {kept.map((each) => (
        <li key={each.id} className="border-t border-line py-3">
          <p className="max-w-[80ch] text-lg leading-snug">{each.sentence}</p>
          <p className="mt-1 flex flex-wrap items-center gap-x-4 text-sm text-muted">
            <span>
              {each.kind.replace("-", " ")}, kept by {each.keeper} on {formatDay(each.kept_at)}
              {each.seed !== null && `, seed ${each.seed}`}
            </span>
            {each.changed ? (
              <strong className="text-signal">! The rows behind it have changed since</strong>
            ) : (
              <span>The same rows today</span>
            )}
            <Link
              to="/findings/$kind"
              params={{ kind: each.kind }}
              search={fromQuery(each.query)}
              className="underline underline-offset-4"
            >
              Open it with today's rows
            </Link>
          </p>
        </li>
      ))}
    </ul>
  );
}
