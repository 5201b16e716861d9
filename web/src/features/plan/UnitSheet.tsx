import type { FormEvent } from "react";
import { useHere } from "@/app/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { type Survey, useNewUnit } from "./queries";

interface Props {
  gear: Survey["gear"];
  /** Resistance at 100 uS/cm that past runs say, ohm. */
  r100?: number;
  onClose: () => void;
}

/** A control box with its generator: the limits on its plate. */
export function UnitSheet({ gear, r100, onClose }: Props) {
  const { membership } = useHere();
  const make = useNewUnit(membership.programme);
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const figure = (name: string) => Number(String(given.get(name)).replace(",", "."));
    const done = await make
      .mutateAsync({
        name: String(given.get("name")),
        gear,
        max_volts: figure("max_volts"),
        max_amps: figure("max_amps"),
        max_watts: figure("max_watts"),
        max_hz: figure("max_hz"),
        max_duty: figure("max_duty") / 100,
        r100_ohm: figure("r100_ohm"),
      })
      .catch(() => null); // the refusal is shown below
    if (done) onClose();
  };
  return (
    <Sheet open onOpenChange={onClose} title="Enter a unit" description="Its limits, as its plate says them">
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <div className="col-span-2">
          <Field label="Name" name="name" required maxLength={60} />
        </div>
        <Field label="Highest peak volts" unit="V" name="max_volts" required inputMode="decimal" />
        <Field label="Highest peak amps" unit="A" name="max_amps" required inputMode="decimal" />
        <Field label="Highest mean power" unit="W" name="max_watts" required inputMode="decimal" />
        <Field label="Highest pulse rate" unit="Hz" name="max_hz" defaultValue={120} required inputMode="decimal" />
        <Field label="Highest duty" unit="%" name="max_duty" defaultValue={100} required inputMode="decimal" />
        <Field
          label="Resistance at 100 uS/cm"
          unit="ohm"
          name="r100_ohm"
          required
          inputMode="decimal"
          defaultValue={r100?.toFixed(0)}
          hint={r100 ? "median of past boat runs" : "volts / amps x conductivity / 100"}
        />
        {make.error && (
          <div className="col-span-2">
            <ErrorMessage failure={make.error} />
          </div>
        )}
        <Button large look="ink" type="submit" className="col-span-2" disabled={make.isPending}>
          Keep it
        </Button>
      </form>
    </Sheet>
  );
}
