import { useForm } from "react-hook-form";
import { ApiError, type Schemas } from "@/api/client";
import { useHere } from "@/app/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { formatDay, formatGrams, formatInches, formatMm, formatPounds, formatTime } from "@/ui/format";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { useCorrection, useFish, useFishHistory, useMarking } from "./queries";

/** One fish of the record: what was called, what became of it, and putting it right. */
export function FishSheet({ capture, onClose }: { capture: string; onClose: () => void }) {
  const { may } = useHere();
  const { data: fish, error } = useFish(capture);
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={fish ? `${fish.capture.species} ${fish.capture.length_text}` : "Fish"}
      description={fish ? `${fish.outing_name}, ${formatDay(fish.date)}, ${fish.site}, run ${fish.run}` : "Reading..."}
    >
      {error && <ErrorMessage failure={error} />}
      {fish && (
        <>
          <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1">
            <Fact term="Length">
              {fish.capture.length_mm != null
                ? `${formatMm(fish.capture.length_mm)} (${formatInches(fish.capture.length_mm)}), ${fish.capture.length_type}, ${fish.capture.length_basis}`
                : "not taken"}
            </Fact>
            <Fact term="Mass">
              {fish.capture.mass_g != null
                ? `${formatGrams(fish.capture.mass_g)} (${formatPounds(fish.capture.mass_g)}), ${fish.capture.mass_basis}`
                : "not weighed"}
            </Fact>
            <Fact term="Recorded">
              {fish.recorder}, {formatTime(fish.capture.device_time, fish.time_zone)}
            </Fact>
            {fish.deleted && <Fact term="State">taken out of the record; restoring brings it back</Fact>}
            {fish.capture.note && <Fact term="Note">{fish.capture.note}</Fact>}
          </dl>
          {may("correct_record") && <Correct fish={fish} />}
          <History capture={capture} />
        </>
      )}
    </Sheet>
  );
}

function Fact({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-muted">{term}</dt>
      <dd>{children}</dd>
    </>
  );
}

function Correct({ fish }: { fish: Schemas["CaptureInPlace"] }) {
  const { capture } = fish;
  const correction = useCorrection(capture.id);
  const { register, handleSubmit, getValues } = useForm({
    values: {
      length: capture.length_text ?? "",
      mass: capture.mass_text ?? "",
      sex: capture.sex ?? "u",
      note: capture.note ?? "",
      reason: "",
    },
  });
  const marking = useMarking(capture.id);
  const failure = correction.error ?? marking.error;
  const refused = failure instanceof ApiError ? failure : null;
  const at = (field: string) => (refused?.field === field ? refused.message : undefined);
  const save = handleSubmit(async (values) => {
    await correction.mutateAsync(values).then(
      () => notify("Corrected; findings are computed anew."),
      () => undefined, // shown at its field below
    );
  });
  return (
    <form onSubmit={save} className="mt-4 grid grid-cols-2 gap-3 border-t border-line pt-3" noValidate>
      <Field label="Length as called" hint="469, 18 1/2 in, ~28in" error={at("length")} {...register("length")} />
      <Field label="Mass as called" hint="1120, 2lb 7oz" error={at("mass")} {...register("mass")} />
      <Choice label="Sex" error={at("sex")} {...register("sex")}>
        <option value="u">unknown</option>
        <option value="f">female</option>
        <option value="m">male</option>
      </Choice>
      <Field label="Note" error={at("note")} {...register("note")} />
      <div className="col-span-2">
        <Field
          label="Reason for the correction"
          hint="Kept with the record, with who and when."
          error={at("reason")}
          {...register("reason")}
        />
      </div>
      {failure && !refused?.field && (
        <div className="col-span-2">
          <ErrorMessage failure={failure} />
        </div>
      )}
      <Button type="submit" look="ink" large disabled={correction.isPending || fish.deleted}>
        Correct
      </Button>
      <Button
        large
        disabled={marking.isPending}
        onClick={() => marking.mutate({ deleted: !fish.deleted, reason: getValues("reason") })}
      >
        {fish.deleted ? "Restore" : "Take out of the record"}
      </Button>
    </form>
  );
}

function History({ capture }: { capture: string }) {
  const { data: changes } = useFishHistory(capture);
  if (!changes?.length) return <p className="mt-3 text-sm text-muted">Never changed since it was called.</p>;
  return (
    <section aria-label="History" className="mt-4 border-t border-line pt-2">
      <h3 className="font-semibold">History</h3>
      <ul className="text-sm">
        {changes.map((change) => (
          <li key={change.id} className="border-t border-line py-1 first:border-0">
            {formatDay(change.device_time)}, {change.person}
            {change.reason && `: ${change.reason}`}
            <span className="block text-muted">
              {Object.keys(change.after)
                .map(
                  (name) => `${name.replaceAll("_", " ")} ${show(change.before[name])} → ${show(change.after[name])}`,
                )
                .join("; ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const show = (value: unknown) => (value === null || value === "" ? "nothing" : String(value));
