import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Key } from "@/ui/Key";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Tick } from "@/ui/Tick";
import { type Decision, useDecide, type WholeReport } from "./queries";
import { useReportKeys } from "./use-report-keys";

const DONE = { verified: "verified", rejected: "rejected", asked: "asked back", received: "opened again" } as const;
type State = keyof typeof DONE;
const ASKS: Partial<Record<State, { label: string; button: string }>> = {
  rejected: { label: "Why it is rejected", button: "Reject report" },
  asked: { label: "What is asked, in the finder's language", button: "Ask finder" },
};

/** Verify, reject, ask back, open again; a decision is taken back as easily as it was made. */
export function Decide({ report }: { report: WholeReport }) {
  const { membership } = useHere();
  const decide = useDecide(membership.programme);
  const [asking, setAsking] = useState<State | null>(null);
  const [reason, setReason] = useState("");
  const reaches = report.mail && Boolean(report.finder?.email);
  const [letter, setLetter] = useState(true);
  /** `seen`: the state that is decided from; taken back, it is what was just decided. */
  const send = (state: State, why = "", seen = report.state) => {
    const body: Decision = { reports: [report.id], state, reason: why, seen, letter: reaches && letter };
    decide.mutate(body, {
      onSuccess: ({ letters }) => {
        const undo = state === "received" ? undefined : () => send("received", "", state);
        notify(`Report ${DONE[state]}.${letters ? " The finder is written to." : ""}`, undo);
        setAsking(null);
        setReason("");
      },
    });
  };
  const decided = report.state === "verified" || report.state === "rejected";
  useReportKeys({
    v: () => report.state !== "verified" && report.fish && !decide.isPending && send("verified"),
    r: () => report.state !== "rejected" && setAsking("rejected"),
    a: () => !decided && setAsking("asked"),
  });
  const ask = asking && ASKS[asking];
  return (
    <div className="mt-2">
      <div className="flex flex-wrap gap-2">
        {report.state !== "verified" && (
          <Button look="ink" large disabled={decide.isPending || !report.fish} onClick={() => send("verified")}>
            Verify report <Key>V</Key>
          </Button>
        )}
        {report.state !== "rejected" && (
          <Button large onClick={() => setAsking(asking === "rejected" ? null : "rejected")}>
            Reject... <Key>R</Key>
          </Button>
        )}
        {!decided && (
          <Button large onClick={() => setAsking(asking === "asked" ? null : "asked")}>
            Ask back... <Key>A</Key>
          </Button>
        )}
        {(decided || report.state === "asked") && (
          <Button large onClick={() => send("received")}>
            Open again
          </Button>
        )}
      </div>
      {ask && (
        <form
          className="mt-2 flex max-w-xl items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            send(asking, reason);
          }}
        >
          <div className="flex-1">
            <Field
              label={ask.label}
              autoFocus
              required
              minLength={3}
              maxLength={200}
              value={reason}
              onChange={({ target }) => setReason(target.value)}
            />
          </div>
          <Button type="submit" look="ink" disabled={decide.isPending}>
            {ask.button}
          </Button>
        </form>
      )}
      {reaches && !decided && <Tick label="Write to the finder" checked={letter} onChange={setLetter} />}
      {!reaches && asking === "asked" && (
        <p className="pt-1 text-sm text-muted">
          {report.finder?.telephone
            ? `No letter goes out; the finder's telephone is ${report.finder.telephone}.`
            : "No letter can go out: the question is shown to whoever opens the report's private link."}
        </p>
      )}
      {decide.error && <ErrorMessage failure={decide.error} />}
    </div>
  );
}
