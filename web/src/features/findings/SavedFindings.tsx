import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { answer, api } from "@/api/client";
import { fromQuery } from "@/features/selection";
import { useHere } from "@/session";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";

/** Saved findings, as they read then, and whether the rows behind them have changed since. */
export function SavedFindings() {
  const { membership } = useHere();
  const { data: saved, error } = useQuery({
    queryKey: ["saved-findings", membership.programme],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/saved-findings", {
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
  if (!saved) return <p className="py-4 text-muted">Loading...</p>;
  if (!saved.length) return <Empty>No saved findings yet. Choose "Save finding" below any finding.</Empty>;
  return (
    <ul className="mt-2">
      {saved.map((each) => (
        <li key={each.id} className="border-t border-line py-3">
          <p className="max-w-[80ch] text-lg leading-snug">{each.sentence}</p>
          <p className="mt-1 flex flex-wrap items-center gap-x-4 text-sm text-muted">
            <span>
              {each.kind.replace("-", " ")}, saved by {each.saved_by} on {formatDay(each.saved_at)}
              {each.seed !== null && `, seed ${each.seed}`}
            </span>
            {each.changed ? (
              <strong className="text-signal">! Its rows have changed since</strong>
            ) : (
              <span>Rows unchanged</span>
            )}
            <Link
              to="/findings/$kind"
              params={{ kind: each.kind }}
              search={fromQuery(each.query)}
              className="underline underline-offset-4"
            >
              Open with current rows
            </Link>
          </p>
        </li>
      ))}
    </ul>
  );
}
