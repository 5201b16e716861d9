import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatDay, money, plural, whole } from "@/ui/words/format";
import { useRewards } from "./queries";

interface Props {
  onShow: (report: string) => void;
  onClose: () => void;
}

/** What rewards cost: paid, promised, and what may still come; the promised ones to be paid. */
export function RewardsSheet({ onShow, onClose }: Props) {
  const { membership } = useHere();
  const { data, error } = useRewards(membership.programme);
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Rewards"
      description="For verified reports of tags on which a reward is promised, once a tag."
    >
      {error && <ErrorMessage failure={error} />}
      {!data && !error && <p className="text-muted">Loading...</p>}
      {data && !data.paid_n && !data.promised_n && !data.at_large_n && (
        <p>No tag of this programme promises a reward. Enter one with a batch, under Tags.</p>
      )}
      {data && data.paid_n + data.promised_n + data.at_large_n > 0 && (
        <>
          <table className="w-full text-left">
            <thead className="border-b border-ink text-sm">
              <tr>
                <th className="py-1">Rewards</th>
                <th className="text-right">Tags</th>
                <th className="text-right">Sum</th>
              </tr>
            </thead>
            <tbody>
              {(
                [
                  ["Paid", data.paid_n, data.paid],
                  ["Promised, to be paid", data.promised_n, data.promised],
                  ["May still be reported", data.at_large_n, data.at_large],
                ] as const
              ).map(([name, n, sum]) => (
                <tr key={name} className="border-b border-line">
                  <td className="py-1.5">{name}</td>
                  <td className="text-right tabular-nums">{whole(n)}</td>
                  <td className="text-right tabular-nums">{money(sum, data.currency)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <h3 className="pt-4 font-semibold">{plural(data.due.length, "reward")} to be paid</h3>
          <ul>
            {data.due.map(({ report, number, amount, promised_at, finder }) => (
              <li key={report}>
                <button
                  type="button"
                  className="flex min-h-[44px] w-full cursor-pointer flex-wrap items-center gap-x-4 border-b border-line text-left hover:border-ink"
                  onClick={() => onShow(report)}
                >
                  <span className="font-semibold tabular-nums">{number}</span>
                  <span>{money(amount, data.currency)}</span>
                  <span className="text-muted">
                    promised {formatDay(promised_at)} {finder ? `to ${finder}` : "no contact kept"}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}
