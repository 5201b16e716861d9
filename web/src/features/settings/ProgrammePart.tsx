import { useRef, useState } from "react";
import { answer, api, asForm } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { newProgramme, ProgrammeFields, type ProgrammeValues } from "@/features/programme";
import { useHere, useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
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
        <Given values={values} disabled={!may("lead")} onChange={setEdited} />
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
            Save
          </Button>
        ) : (
          <p className="mt-3 text-sm text-muted">A lead may change this.</p>
        )}
      </form>
      {may("lead") && <TakenHome programme={membership.programme} />}
      {membership.role === "lead" && !membership.demo && (
        <div className="mt-8 border-t border-line pt-4">
          <BroughtIn />
          <Button onClick={() => setBeginning(true)}>Create another programme</Button>
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

const LICENCES = ["CC0-1.0", "CC-BY-4.0", "CC-BY-NC-4.0", "ODbL-1.0"];

interface GivenProps {
  values: ProgrammeValues;
  disabled: boolean;
  onChange: (values: ProgrammeValues) => void;
}

/** Under what the data go out, and how they are cited: both stand in every export. */
function Given({ values, disabled, onChange }: GivenProps) {
  return (
    <fieldset disabled={disabled} className="mt-3 grid gap-3">
      <Field
        label="Currency"
        maxLength={8}
        value={values.currency}
        hint="Of the prices of tags and of rewards, such as EUR."
        onChange={(event) => onChange({ ...values, currency: event.target.value })}
      />
      <Field
        label="Licence of the data"
        list="licences"
        maxLength={60}
        value={values.licence}
        hint="Stands in every export; empty where none was chosen."
        onChange={(event) => onChange({ ...values, licence: event.target.value })}
      />
      <datalist id="licences">
        {LICENCES.map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
      <Field
        label="Citation"
        maxLength={300}
        value={values.citation}
        onChange={(event) => onChange({ ...values, citation: event.target.value })}
      />
    </fieldset>
  );
}

function TakenHome({ programme }: { programme: string }) {
  return (
    <section aria-labelledby="whole" className="mt-8 max-w-prose border-t border-line pt-4">
      <h3 id="whole" className="font-semibold">
        The whole programme
      </h3>
      <p className="mt-1 text-muted">
        One archive of open formats: waters, sites, people by name, plans, protocols, outings, runs with their effort,
        readings, fish, tags, releases and history, a CSV each, described with the keys between them (a Data Package).
        It can be imported by another installation. No passwords are in it; exact places are.
      </p>
      <a
        className="mt-2 inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-4"
        href={`/api/v1/programmes/${programme}/archive.zip`}
        download
      >
        Download archive
      </a>
    </section>
  );
}

function BroughtIn() {
  const setSession = useSetSession();
  const input = useRef<HTMLInputElement>(null);
  const [failure, setFailure] = useState<Error | null>(null);
  const [going, setGoing] = useState(false);
  const bring = async (file: File) => {
    setFailure(null);
    setGoing(true);
    try {
      const told = await answer(api.POST("/api/v1/programmes/bring-in", asForm({ file })));
      await setSession(await answer(api.GET("/api/v1/session")));
      notify(
        told.new
          ? `${told.name} came in with ${told.new.toLocaleString("en")} rows. Turn to it in the bar above.`
          : `${told.name} is here already, with all its ${told.there.toLocaleString("en")} rows.`,
      );
    } catch (error) {
      setFailure(error as Error);
    } finally {
      setGoing(false);
    }
  };
  return (
    <div className="mb-6">
      <input
        ref={input}
        type="file"
        accept=".zip"
        className="sr-only"
        aria-label="Archive of a programme"
        onChange={({ target }) => {
          const file = target.files?.[0];
          target.value = "";
          if (file) void bring(file);
        }}
      />
      <Button disabled={going} onClick={() => input.current?.click()}>
        {going ? "Importing..." : "Import a programme from its archive"}
      </Button>
      <p className="mt-1 text-sm text-muted">
        With its keys; imported twice it is there once. Its people come by their names and are invited like anybody
        else.
      </p>
      {failure && <ErrorMessage failure={failure} />}
    </div>
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
    <Sheet open onOpenChange={onClose} title="Create another programme" description="You become its lead.">
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
