import { useState } from "react";
import { type UseFormRegister, useForm } from "react-hook-form";
import { ApiError, type Schemas } from "@/api/client";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { formatDay } from "@/ui/words/format";
import { readMinutes } from "@/ui/words/read-clock";
import { type CorrectionForm, changesIn, formOf } from "./correction";
import { useCorrection, useRunsOf } from "./queries";
import { TakeOut } from "./TakeOut";

type Form = CorrectionForm & { reason: string };

const LENGTH_UNITS = ["mm", "cm", "in", "ft", "m"];
const MASS_UNITS = ["g", "kg", "lb", "oz"];

/** How a fish left, with how strongly where it was released. */
const LEFT: Record<string, string> = {
  "": "not recorded, or aboard",
  released: "released",
  "released 1": "released 1: swam off strongly",
  "released 2": "released 2: swam off slowly",
  "released 3": "released 3: drifted or sounded weakly",
  "released 4": "released 4: not recovered",
  dead: "dead",
  kept: "kept",
  escaped: "escaped before release",
  taken: "taken elsewhere",
};

/** Puts a fish of the record right: only what was changed in the form is sent. */
export function CorrectFish({ fish }: { fish: Schemas["CaptureInPlace"] }) {
  const { capture } = fish;
  const { membership } = useHere();
  const correction = useCorrection(capture.id);
  const { data: options } = useSelectionOptions(membership.programme);
  const [outing, setOuting] = useState(fish.outing);
  const { data: runs } = useRunsOf(outing);
  const siteName = (site: string) =>
    options?.waters.flatMap(({ sites }) => sites).find(({ id }) => id === site)?.name ?? "";
  const { register, handleSubmit, getValues, setError, formState } = useForm<Form>({
    values: { ...formOf(capture, fish.time_zone), reason: "" },
  });
  const refused = correction.error instanceof ApiError ? correction.error : null;
  const at = (field: string) => (refused?.field === field ? refused.message : undefined);
  const save = handleSubmit(async ({ reason, ...form }) => {
    const changed = changesIn(capture, fish.time_zone, form);
    if (!Object.keys(changed).length)
      return setError("root", { message: "Nothing was changed in the form; change what is wrong first." });
    await correction.mutateAsync({ ...changed, reason }).then(
      () => notify("Corrected; findings are computed anew."),
      () => undefined, // shown at its field below
    );
  });
  return (
    <form onSubmit={save} className="mt-4 grid grid-cols-2 gap-3 border-t border-line pt-3" noValidate>
      <Amount
        label="Length as recorded"
        hint="437, 18 1/4, ~31"
        name="length"
        units={LENGTH_UNITS}
        {...{ register, at }}
      />
      <Amount label="Weight as recorded" hint="890, 2lb 7oz" name="mass" units={MASS_UNITS} {...{ register, at }} />
      <Choice key={options ? "known" : "unread"} label="Species" error={at("species")} {...register("species")}>
        {!options?.species.some(({ code }) => code === capture.species) && (
          <option value={capture.species}>{capture.species}</option>
        )}
        {options?.species.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </Choice>
      <Choice label="Disposition" error={at("fate")} {...register("left")}>
        {Object.entries(LEFT).map(([left, words]) => (
          <option key={left} value={left}>
            {words}
          </option>
        ))}
      </Choice>
      {fish.run !== null && (
        <>
          <Choice label="Outing" value={outing} onChange={(event) => setOuting(event.target.value)}>
            {options?.outings.map(({ id, name, date }) => (
              <option key={id} value={id}>
                {formatDay(date)} {name}
              </option>
            ))}
          </Choice>
          <Choice key={`${outing} ${runs?.length}`} label="Run" error={at("run")} {...register("run")}>
            {/* what is chosen stands among the options from the first on: else the browser shows another */}
            {outing !== fish.outing && <option value={capture.run ?? ""}>choose its run</option>}
            {outing === fish.outing && !runs && (
              <option value={capture.run ?? ""}>
                run {fish.run}, {fish.site}
              </option>
            )}
            {runs?.map(({ id, number, site }) => (
              <option key={id} value={id}>
                run {number}, {siteName(site)}
              </option>
            ))}
          </Choice>
        </>
      )}
      <Field
        label="Caught at"
        unit="local time"
        error={formState.errors.caught?.message ?? at("caught_at")}
        {...register("caught", { validate: (text) => readMinutes(text) !== null || "Write it as 21:40." })}
      />
      <Choice label="Sex" error={at("sex")} {...register("sex")}>
        <option value="u">unknown</option>
        <option value="f">female</option>
        <option value="m">male</option>
      </Choice>
      <Field label="Note" error={at("note")} maxLength={200} {...register("note")} />
      <div className="col-span-2">
        <Field
          label="Reason for the correction"
          hint="Kept with the record, with who and when."
          error={at("reason")}
          {...register("reason")}
        />
      </div>
      <div className="col-span-2 empty:hidden">
        {formState.errors.root && <p role="alert">{formState.errors.root.message}</p>}
        {correction.error && !refused?.field && <ErrorMessage failure={correction.error} />}
      </div>
      <Button type="submit" look="ink" large disabled={correction.isPending || fish.deleted}>
        Correct
      </Button>
      <TakeOut fish={fish} reason={() => getValues("reason")} />
    </form>
  );
}

interface AmountProps {
  label: string;
  hint: string;
  name: "length" | "mass";
  units: string[];
  register: UseFormRegister<Form>;
  at: (field: string) => string | undefined;
}

/** A text with the unit in which bare numbers of it are read. */
function Amount({ label, hint, name, units, register, at }: AmountProps) {
  return (
    <div className="grid grid-cols-[1fr_5rem] gap-2">
      <Field label={label} hint={hint} error={at(name)} {...register(name)} />
      <Choice label="in" error={at(`${name}_unit`)} {...register(`${name}_unit`)}>
        {units.map((unit) => (
          <option key={unit}>{unit}</option>
        ))}
      </Choice>
    </div>
  );
}
