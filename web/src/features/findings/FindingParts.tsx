import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { rowsQuery, type Selection } from "@/features/selection";
import { useHere } from "@/session";
import { formatInterval, plural } from "@/ui/words/format";
import { SaveFinding } from "./SaveFinding";

type AnyFinding = Pick<
  Schemas["SizeFinding"],
  "sentence" | "left_out" | "derived" | "doubts" | "assumptions" | "method"
>;

/** The parts every finding has, always in this order: sentence, picture, table, assumptions, method, rows. */

export function Sentence({ finding, stale }: { finding: AnyFinding; stale: boolean }) {
  return (
    <div className={`py-3 ${stale ? "opacity-60" : ""}`} aria-busy={stale}>
      {finding.doubts.map((doubt) => (
        <p
          key={doubt}
          role="alert"
          className="mb-2 max-w-[84ch] border-l-4 border-signal bg-raised px-3 py-2 font-semibold"
        >
          {doubt}
        </p>
      ))}
      <p className="max-w-[72ch] text-xl leading-snug" data-testid="sentence">
        {finding.sentence}
      </p>
      {finding.left_out.length > 0 && (
        <p className="mt-1 text-sm text-muted">
          Left out: {finding.left_out.map(({ reason, n }) => `${n.toLocaleString("en")} ${reason}`).join("; ")}.
        </p>
      )}
      {finding.derived?.map(({ from_type, n, sd_mm, source }) => (
        <p key={from_type} className="mt-1 text-sm text-muted">
          {n.toLocaleString("en")} lengths were measured as {from_type} and are derived (SD {sd_mm} mm each; {source}).
        </p>
      ))}
    </div>
  );
}

const MARKS = {
  holds: "✓ not refuted",
  "not refuted": "~ not refuted",
  doubtful: "? doubtful",
  fails: "✗ fails",
  "not checked": "· not checked",
};

interface FootingProps {
  finding: AnyFinding;
  selection: Selection;
  kind: string;
  /** Whether the selection's captures are what it was computed from. */
  ofCaptures?: boolean;
}

export function Footing({ finding, selection, kind, ofCaptures = true }: FootingProps) {
  const { membership, may } = useHere();
  return (
    <div className="mt-4 grid gap-x-8 gap-y-4 border-t border-line pt-3 lg:grid-cols-[3fr_2fr]">
      <section aria-label="Assumptions">
        <h2 className="font-semibold">Assumptions and checks</h2>
        <table className="mt-1 w-full text-left">
          <tbody>
            {finding.assumptions.map(({ name, verdict, detail }) => (
              <tr key={name} className="border-t border-line align-top">
                <td
                  className={`w-28 py-1 pr-3 whitespace-nowrap ${verdict === "fails" || verdict === "doubtful" ? "font-semibold text-signal" : ""}`}
                >
                  {MARKS[verdict]}
                </td>
                <td className="py-1">
                  {name}. <span className="text-muted">{detail}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label="Method">
        <h2 className="font-semibold">Method</h2>
        <p className="mt-1 text-sm">{finding.method.text}</p>
        <p className="mt-1 text-sm text-muted">
          Sources: {finding.method.sources.join("; ")}.{" "}
          <Link
            to="/method/$page"
            params={{ page: finding.method.page }}
            className="inline-flex min-h-[44px] items-center underline underline-offset-4"
          >
            Formulas, assumptions and checks in full
          </Link>
        </p>
        <div className="mt-3 flex flex-wrap gap-2">
          {may("export_rows") && ofCaptures && (
            <a
              className="inline-flex min-h-[44px] items-center rounded-sm border border-ink bg-ink px-4 text-on-ink"
              href={`/api/v1/programmes/${membership.programme}/captures.csv?${rowsQuery(selection)}`}
              download
            >
              The rows behind it, as CSV
            </a>
          )}
          {may("save_finding") && <SaveFinding kind={kind} selection={selection} />}
        </div>
      </section>
    </div>
  );
}

export function EstimateTable({
  caption,
  rows,
  digits,
  what,
}: {
  caption: string;
  rows: Schemas["Estimate"][];
  digits: number;
  what: string;
}) {
  if (!rows.length) return null;
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">{caption}</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th className="pr-3">{what}</th>
          <th className="pr-3 text-right">Value ({Math.round(rows[0]!.level * 100)} % interval)</th>
          <th className="text-right">n</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, unit, value, lower, upper, n }) => (
          <tr key={name} className={`border-t border-line ${n < 10 ? "text-muted" : ""}`}>
            <td className="py-1 pr-3">
              {name}
              {unit && <span className="text-muted"> ({unit})</span>}
            </td>
            <td className="pr-3 text-right whitespace-nowrap">
              {/* a share near nought keeps a digit, else it reads as "0 (0 to 0)" */}
              {formatInterval(value, lower, upper, digits + (upper !== null && upper < 1 ? 1 : 0))}
            </td>
            <td className="text-right">{n.toLocaleString("en")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function Picture({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <figure>
      <figcaption className="font-semibold">
        {title} {note && <span className="text-sm font-normal text-muted">{note}</span>}
      </figcaption>
      {children}
    </figure>
  );
}

export const countOf = (n: number) => plural(n, "fish", "fish");
