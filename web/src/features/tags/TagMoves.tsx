import { Link } from "@tanstack/react-router";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { type FoundTag, useTagMoves } from "./queries";

/** The ledger of one tag: received, issued, placed, read, lost, found; by whom, when and why. */
export function TagMoves({ tag, onClose }: { tag: FoundTag; onClose: () => void }) {
  const { membership } = useHere();
  const { data: moves, error } = useTagMoves(membership.programme, tag);
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={`${KINDS[tag.kind]} ${markText(tag)}`}
      description="Everything that happened to this tag, the oldest first."
    >
      {error && <ErrorMessage failure={error} />}
      {!moves && !error && <p className="text-muted">Loading...</p>}
      {moves?.length === 0 && <p>Nothing is recorded of it yet but that it is in the stock.</p>}
      {moves && moves.length > 0 && (
        <table className="w-full text-left">
          <thead className="border-b border-ink text-sm">
            <tr>
              <th className="py-1 pr-3">Date</th>
              <th className="pr-3">What</th>
              <th className="pr-3">Who</th>
              <th>Said of it</th>
            </tr>
          </thead>
          <tbody>
            {moves.map(({ at, what, person, details, fish }) => (
              <tr key={`${at} ${what}`} className="border-b border-line">
                <td className="py-1.5 pr-3 whitespace-nowrap tabular-nums">{formatDay(at)}</td>
                <td className="pr-3 font-semibold">{what}</td>
                <td className="pr-3">{person}</td>
                <td>
                  {details}{" "}
                  {fish && (
                    <Link
                      to="/fish/$fish"
                      params={{ fish }}
                      className="inline-flex min-h-[44px] items-center underline underline-offset-4"
                    >
                      its fish
                    </Link>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Sheet>
  );
}
