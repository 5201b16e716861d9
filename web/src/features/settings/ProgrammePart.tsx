import { useState } from "react";
import { answer, api } from "@/api/client";
import { useHere, useSetSession } from "@/app/session";
import { fieldErrors } from "@/features/sign-in/errors";
import { newProgramme, ProgrammeFields, type ProgrammeValues } from "@/features/sign-in/ProgrammeFields";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { useChangeProgramme, useProgramme } from "./queries";

/** What the programme decided, and beginning another one. */
export function ProgrammePart() {
  const { membership, may } = useHere();
  const { data, error } = useProgramme(membership.programme);
  const change = useChangeProgramme(membership.programme);
  const [edited, setEdited] = useState<ProgrammeValues | null>(null);
  const [beginning, setBeginning] = useState(false);
  if (error) return <ErrorMessage failure={error} />;
  if (!data) return <p className="text-muted">Reading the programme...</p>;
  const kept = data as ProgrammeValues;
  const values = edited ?? kept;
  const names = Object.keys(values) as (keyof ProgrammeValues)[];
  const differing = Object.fromEntries(
    names.filter((name) => values[name] !== kept[name]).map((name) => [name, values[name]]),
  );
  return (
    <>
      <form
        className="mt-3 max-w-xl"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(differing, {
            onSuccess: () => {
              setEdited(null);
              notify("Kept. What it was before stands in the history.");
            },
          });
        }}
      >
        <ProgrammeFields
          values={values}
          onChange={setEdited}
          errors={fieldErrors(change.error)}
          disabled={!may("lead")}
        />
        {"time_zone" in differing && (
          <p className="mt-2 text-sm">
            Waters that are in {kept.time_zone} move with the programme; others keep their zone. Nothing recorded
            changes: only how times are shown.
          </p>
        )}
        {change.error && <ErrorMessage failure={change.error} />}
        {may("lead") ? (
          <Button
            type="submit"
            look="ink"
            large
            className="mt-4"
            disabled={!Object.keys(differing).length || change.isPending}
          >
            Keep
          </Button>
        ) : (
          <p className="mt-3 text-sm text-muted">A lead may change this.</p>
        )}
      </form>
      {membership.role === "lead" && !membership.demo && (
        <div className="mt-8 border-t border-line pt-4">
          <Button onClick={() => setBeginning(true)}>Begin another programme</Button>
          <p className="mt-1 text-sm text-muted">
            With people, waters and fish of its own; the bar turns between them.
          </p>
        </div>
      )}
      {membership.demo && (
        <p className="mt-8 max-w-prose border-t border-line pt-4 text-muted">
          This programme is made up: the demo. Sign out to begin your own beside it. To take the demo out, whoever looks
          after the server runs <code>bin/take-out-demo</code>; nothing of your own goes with it.
        </p>
      )}
      {beginning && <Another onClose={() => setBeginning(false)} />}
    </>
  );
}

function Another({ onClose }: { onClose: () => void }) {
  const setSession = useSetSession();
  const [values, setValues] = useState(newProgramme);
  const [failure, setFailure] = useState<Error | null>(null);
  const begin = () =>
    answer(api.POST("/api/v1/programmes", { body: values })).then(async (session) => {
      await setSession(session);
      notify(`${values.name} is begun. Turn to it in the bar above.`);
      onClose();
    }, setFailure);
  return (
    <Sheet open onOpenChange={onClose} title="Begin another programme" description="You become its lead.">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void begin();
        }}
      >
        <ProgrammeFields values={values} onChange={setValues} errors={fieldErrors(failure)} />
        {failure && <ErrorMessage failure={failure} />}
        <Button type="submit" look="ink" large className="mt-4">
          Begin it
        </Button>
      </form>
    </Sheet>
  );
}
