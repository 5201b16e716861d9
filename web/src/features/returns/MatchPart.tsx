import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { markText } from "@/ui/words/mark-text";
import { KINDS, STATES } from "@/ui/words/tag-kinds";
import { useMatch, type WholeReport } from "./queries";

type Kind = keyof typeof KINDS;

/** Which tag the report is of: near numbers to choose from, or one that is typed. */
export function MatchPart({ report }: { report: WholeReport }) {
  const { may } = useHere();
  const match = useMatch(report.id);
  const [open, setOpen] = useState(!report.tag);
  const [kind, setKind] = useState<Kind>(report.tag?.kind ?? "tbar");
  const [number, setNumber] = useState("");
  if (!may("verify_returns") || report.state === "verified") return null;
  return (
    <section aria-label="Match" className="mt-3">
      {report.tag && (
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          It is another tag...
        </Button>
      )}
      {open && (
        <>
          {!report.tag && (
            <p>
              {report.near.length
                ? "No tag has this number. Near ones, those in a fish first:"
                : "No tag has this number, and none differs from it by one sign."}
            </p>
          )}
          <div className="flex flex-wrap gap-2 pt-1">
            {report.near.map((each) => (
              <Button
                key={`${each.kind} ${each.number}`}
                disabled={match.isPending}
                onClick={() => match.mutate({ kind: each.kind, number: each.number })}
              >
                {KINDS[each.kind]} {markText(each)}, {STATES[each.state]!.toLowerCase()}
              </Button>
            ))}
          </div>
          <form
            className="mt-2 flex max-w-xl flex-wrap items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              match.mutate({ kind, number });
            }}
          >
            <Choice label="Kind" value={kind} onChange={({ target }) => setKind(target.value as Kind)}>
              {Object.entries(KINDS).map(([code, words]) => (
                <option key={code} value={code}>
                  {words}
                </option>
              ))}
            </Choice>
            <div className="min-w-40 flex-1">
              <Field label="Number" value={number} maxLength={40} onChange={({ target }) => setNumber(target.value)} />
            </div>
            <Button type="submit" disabled={match.isPending || !number.trim()}>
              Match tag
            </Button>
            {report.tag && (
              <Button disabled={match.isPending} onClick={() => match.mutate({ kind, number: "" })}>
                No tag of ours
              </Button>
            )}
          </form>
          {match.error && <ErrorMessage failure={match.error} />}
        </>
      )}
    </section>
  );
}
