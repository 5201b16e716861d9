import { type FormEvent, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { isNumber, readNumber } from "@/ui/words/read-number";
import { type Survey, useNewUnit } from "./queries";

const FIGURES = ["max_volts", "max_amps", "max_watts", "max_hz", "max_duty", "r100_ohm"] as const;

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
  const [unread, setUnread] = useState<{ field: string; message: string } | null>(null);
  const at = (name: string) => (unread?.field === name ? unread.message : undefined);
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const read = Object.fromEntries(FIGURES.map((name) => [name, readNumber(String(given.get(name)))]));
    const wrong = FIGURES.find((name) => !isNumber(read[name]!));
    setUnread(wrong ? { field: wrong, message: (read[wrong] as { message: string }).message } : null);
    if (wrong) return;
    const figure = (name: (typeof FIGURES)[number]) => (read[name] as { value: number }).value;
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
        <Field
          label="Highest peak volts"
          unit="V"
          name="max_volts"
          error={at("max_volts")}
          required
          inputMode="decimal"
        />
        <Field label="Highest peak amps" unit="A" name="max_amps" error={at("max_amps")} required inputMode="decimal" />
        <Field
          label="Highest mean power"
          unit="W"
          name="max_watts"
          error={at("max_watts")}
          required
          inputMode="decimal"
        />
        <Field
          label="Highest pulse rate"
          unit="Hz"
          name="max_hz"
          error={at("max_hz")}
          defaultValue={120}
          required
          inputMode="decimal"
        />
        <Field
          label="Highest duty"
          unit="%"
          name="max_duty"
          error={at("max_duty")}
          defaultValue={100}
          required
          inputMode="decimal"
        />
        <Field
          label="Resistance at 100 µS/cm"
          unit="ohm"
          name="r100_ohm"
          error={at("r100_ohm")}
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
