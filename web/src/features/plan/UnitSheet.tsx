import { useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { isNumber, readNumber } from "@/ui/words/read-number";
import { type Survey, useNewUnit } from "./queries";

interface Figure {
  name: "max_volts" | "max_amps" | "max_watts" | "max_hz" | "max_duty" | "r100_ohm";
  label: string;
  unit: string;
}
const FIGURES: readonly Figure[] = [
  { name: "max_volts", label: "Highest peak volts", unit: "V" },
  { name: "max_amps", label: "Highest peak amps", unit: "A" },
  { name: "max_watts", label: "Highest mean power", unit: "W" },
  { name: "max_hz", label: "Highest pulse rate", unit: "Hz" },
  { name: "max_duty", label: "Highest duty", unit: "%" },
  { name: "r100_ohm", label: "Resistance at 100 µS/cm", unit: "ohm" },
];

/** What is no number as it was typed, in words; true where it is one. */
function isFigure(text: string): true | string {
  const read = readNumber(text);
  return isNumber(read) || read.message;
}

function figure(text: string): number {
  const read = readNumber(text);
  return isNumber(read) ? read.value : Number.NaN; // refused before by isFigure
}

interface Props {
  gear: Survey["gear"];
  /** Resistance at 100 µS/cm that past runs say, ohm. */
  r100?: number;
  onClose: () => void;
}

/** A control box with its generator: the limits on its plate. */
export function UnitSheet({ gear, r100, onClose }: Props) {
  const { membership } = useHere();
  const make = useNewUnit(membership.programme);
  const refused = fieldErrors(make.error);
  const { register, handleSubmit, formState } = useForm({
    defaultValues: {
      name: "",
      max_volts: "",
      max_amps: "",
      max_watts: "",
      max_hz: "120",
      max_duty: "100",
      r100_ohm: r100?.toFixed(0) ?? "",
    },
  });
  const save = handleSubmit(({ name, ...given }) =>
    make.mutate(
      {
        name,
        gear,
        max_volts: figure(given.max_volts),
        max_amps: figure(given.max_amps),
        max_watts: figure(given.max_watts),
        max_hz: figure(given.max_hz),
        max_duty: figure(given.max_duty) / 100,
        r100_ohm: figure(given.r100_ohm),
      },
      { onSuccess: onClose },
    ),
  );
  return (
    <Sheet open onOpenChange={onClose} title="Add electrofishing unit" description="Limits as its plate states them">
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <div className="col-span-2">
          <Field label="Name" required maxLength={60} error={refused.name} {...register("name")} />
        </div>
        {FIGURES.map(({ name, label, unit }) => (
          <Field
            key={name}
            label={label}
            unit={unit}
            required
            inputMode="decimal"
            error={formState.errors[name]?.message ?? refused[name]}
            hint={
              name === "r100_ohm"
                ? r100
                  ? "median of past boat runs"
                  : "volts / amps x conductivity / 100"
                : undefined
            }
            {...register(name, { validate: isFigure })}
          />
        ))}
        <Refusal failure={make.error} fields={["name", ...FIGURES.map(({ name }) => name)]} />
        <Button large look="ink" type="submit" className="col-span-2" disabled={make.isPending}>
          Save unit
        </Button>
      </form>
    </Sheet>
  );
}
