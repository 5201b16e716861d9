import { Link } from "@tanstack/react-router";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { type HandingOut, useHandingsOut } from "./queries";

const NAMED = 12;

/** What was handed out, and whether it balances: issued = placed + damaged + lost + returned + still out, which are named. */
export function HandedOut() {
  const { membership } = useHere();
  const { data, error } = useHandingsOut(membership.programme);
  if (error) return <ErrorMessage failure={error} />;
  if (!data?.length) return null;
  return (
    <section aria-label="Handed out" className="mt-6 overflow-x-auto">
      <h2 className="font-semibold">Handed out, and what became of it</h2>
      <table className="w-full text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1 pr-3">Day</th>
            <th className="pr-3">To</th>
            <th className="pr-3">Kind</th>
            {["Issued", "Placed", "Damaged", "Lost", "Returned", "Still out"].map((each) => (
              <th key={each} className="pr-3 text-right">
                {each}
              </th>
            ))}
            <th>Numbers still out</th>
          </tr>
        </thead>
        <tbody>
          {data.map((each) => (
            <Row key={each.id} each={each} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({ each }: { each: HandingOut }) {
  const { kind, missing, out } = each;
  const named = missing.slice(0, NAMED).map((number) => markText({ kind, number }));
  const more = out - named.length;
  return (
    <tr className="border-b border-line align-top">
      <td className="py-1.5 pr-3 whitespace-nowrap">{formatDay(each.at)}</td>
      <td className="pr-3">
        {each.person || each.boat || (
          <Link
            to="/deck/$outing"
            params={{ outing: each.outing ?? "" }}
            className="inline-flex min-h-[44px] items-center underline underline-offset-4"
          >
            an outing
          </Link>
        )}
      </td>
      <td className="pr-3">{KINDS[kind]}</td>
      {[each.issued, each.placed, each.damaged, each.lost, each.returned].map((n, at) => (
        <td key={at} className="pr-3 text-right tabular-nums">
          {n}
        </td>
      ))}
      <td className={`pr-3 text-right tabular-nums ${out ? "font-semibold" : "text-muted"}`}>{out}</td>
      <td className="text-sm tabular-nums">
        {out ? `${named.join(", ")}${more > 0 ? ` and ${more} more` : ""}` : "balanced"}
      </td>
    </tr>
  );
}
