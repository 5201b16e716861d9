import { whole } from "@/ui/words/format";
import type { FileRow } from "./queries";

/** Lines that were not taken, with column and reason. */
export function Rejects({ row }: { row: FileRow }) {
  const result = row.result;
  if (!result?.bad) return null;
  return (
    <section aria-label="Lines that cannot be read" className="mt-5">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-lg font-semibold">Lines that cannot be read</h2>
        <a className="underline underline-offset-4" href={`/api/v1/imports/${row.id}/rejects.csv`} download>
          Reject file (CSV): mend it, bring it in
        </a>
      </div>
      <table className="mt-1 w-full text-left">
        <thead>
          <tr className="border-b border-ink">
            <th className="w-16 pr-4 text-right">Line</th>
            <th className="pr-3">Column</th>
            <th>Reason</th>
          </tr>
        </thead>
        <tbody>
          {result.rejects.map((each) => (
            <tr key={each.line} className="border-b border-line align-top">
              <td className="pr-4 text-right">{whole(each.line)}</td>
              <td className="max-w-32 pr-3 break-words">{each.column}</td>
              <td>{each.reason}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {result.bad > result.rejects.length && (
        <p className="text-sm text-muted">and {whole(result.bad - result.rejects.length)} more in the reject file</p>
      )}
    </section>
  );
}
