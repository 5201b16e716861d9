import { useState } from "react";
import { type Control, type UseFormRegister, useForm } from "react-hook-form";
import { v7 as uuidv7 } from "uuid";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { useEnterReturn } from "./queries";
import { SaidFields } from "./SaidFields";
import { bodyOf, NOTHING_SAID, type Said } from "./said";
import { CHANNELS } from "./words";

interface Form extends Said {
  number: string;
  channel: Exclude<keyof typeof CHANNELS, "web">;
  remarks: string;
  name: string;
  email: string;
  telephone: string;
  consent: boolean;
}

const NEW: Form = {
  ...NOTHING_SAID,
  number: "",
  channel: "telephone",
  remarks: "",
  name: "",
  email: "",
  telephone: "",
  consent: false,
};
const SAID = Object.keys(NOTHING_SAID) as (keyof Said)[];

/** A report that staff were told: the same questions as on the public page, in the order of a telephone call. */
export function EnterReturn({ onClose, onEntered }: { onClose: () => void; onEntered: (key: string) => void }) {
  const { membership } = useHere();
  const enter = useEnterReturn(membership.programme);
  const [id] = useState(() => uuidv7());
  const [unread, setUnread] = useState<Record<string, string>>({});
  const { register, handleSubmit, control } = useForm<Form>({ defaultValues: NEW });
  const errors = { ...fieldErrors(enter.error), ...unread };
  const save = handleSubmit(({ number, channel, remarks, name, email, telephone, consent, ...said }) => {
    const read = bodyOf(said, SAID);
    if ("errors" in read) return setUnread(read.errors);
    setUnread({});
    const contact = name || email || telephone ? { name, email, telephone, consent } : null;
    enter.mutate(
      { ...read.body, id, number, channel, remarks, contact },
      {
        onSuccess: (report) => {
          notify("Report entered.");
          onClose();
          onEntered(report.id);
        },
      },
    );
  });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Enter report"
      description="What a finder tells you. Anything but the number may be unknown."
    >
      <form onSubmit={save} className="grid gap-3">
        <div className="grid grid-cols-2 gap-2">
          <Field label="Number on the tag" maxLength={40} error={errors.number} {...register("number")} />
          <Choice label="How it came" {...register("channel")}>
            {Object.entries(CHANNELS)
              .filter(([code]) => code !== "web")
              .map(([code, words]) => (
                <option key={code} value={code}>
                  {words}
                </option>
              ))}
          </Choice>
        </div>
        <SaidFields
          // the form of a whole report has all fields of what it says
          register={register as unknown as UseFormRegister<Said>}
          control={control as unknown as Control<Said>}
          errors={errors}
        />
        <Field label="Remarks" maxLength={1000} error={errors.remarks} {...register("remarks")} />
        <fieldset className="grid gap-2 border-t border-line pt-2">
          <legend className="text-sm text-muted">Finder, only where they want an answer or a reward</legend>
          <Field label="Name" maxLength={80} {...register("name")} />
          <div className="grid grid-cols-2 gap-2">
            <Field label="E-mail" type="email" error={errors.email} {...register("email")} />
            <Field label="Telephone" maxLength={40} {...register("telephone")} />
          </div>
          <label className="flex min-h-[44px] items-center gap-2">
            <input type="checkbox" className="size-5 shrink-0" {...register("consent")} />
            They agree that this is kept until their report is settled
          </label>
          {errors.consent && <p className="text-sm text-signal">{errors.consent}</p>}
        </fieldset>
        {enter.error && <ErrorMessage failure={enter.error} />}
        <Button type="submit" look="ink" large disabled={enter.isPending}>
          Save report
        </Button>
      </form>
    </Sheet>
  );
}
