import { Link } from "@tanstack/react-router";
import type { WholeReport } from "./queries";
import { dayText, FISH_FATES, positionText, STATES } from "./words";

/** Other reports of the same fish, side by side with this one: perhaps one event told twice. */
export function OthersPart({ report }: { report: WholeReport }) {
  if (!report.others.length) return null;
  const all = [report, ...report.others];
  return (
    <section aria-label="Other reports of this fish" className="mt-4 overflow-x-auto">
      <h3 className="font-semibold">Reports of this fish side by side</h3>
      <table className="w-full text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1 pr-3">Report</th>
            <th className="pr-3">Found</th>
            <th className="pr-3">Place</th>
            <th className="pr-3">Length</th>
            <th className="pr-3">Fish</th>
            <th>State</th>
          </tr>
        </thead>
        <tbody>
          {all.map((each, at) => (
            <tr key={each.id} className="border-b border-line">
              <td className="py-1 pr-3">
                {at === 0 ? (
                  "this one"
                ) : (
                  <Link
                    to="/tags/returns"
                    search={{ box: "all", report: each.id }}
                    className="inline-flex min-h-[44px] items-center underline underline-offset-4"
                  >
                    {each.number_text || "photo"}
                  </Link>
                )}
              </td>
              <td className="pr-3">{dayText(each)}</td>
              <td className="pr-3">{each.place_text || positionText(each) || "not given"}</td>
              <td className="pr-3">{each.length_text || "not given"}</td>
              <td className="pr-3">{each.fish_fate ? FISH_FATES[each.fish_fate] : "not given"}</td>
              <td>{STATES[each.state]}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
