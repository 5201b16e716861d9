import { type FormEvent, useState } from "react";
import { v7 as uuid } from "uuid";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { NumberField } from "@/ui/NumberField";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { today } from "@/ui/words/read-day";
import { KINDS, POWERED } from "@/ui/words/tag-kinds";
import { NumbersField, takenWords } from "./NumbersField";
import { type Batch, type Kind, useAddNumbers, useDescribeBatch, useEnterBatch } from "./queries";

interface Props {
  /** A batch that is described anew or gets more numbers; null for a new one. */
  batch: Batch | null;
  onClose: () => void;
}

type Told = Pick<
  Batch,
  | "name"
  | "colour"
  | "size_mm"
  | "mass_g"
  | "battery_days"
  | "note"
  | "received"
  | "supplier"
  | "price_each"
  | "meaning"
  | "reward"
  | "frequency_khz"
  | "code_space"
>;

const NOTHING: Told = {
  name: "",
  colour: "",
  size_mm: null,
  mass_g: null,
  battery_days: null,
  note: "",
  received: null,
  supplier: "",
  price_each: null,
  meaning: "",
  reward: null,
  frequency_khz: null,
  code_space: "",
};

/** What a batch is called where nobody names it. */
const proposedName = (kind: Kind) => `${KINDS[kind]}, ${formatDay(today())}`;

/** Tags of one kind into the stock: what they are, and their numbers. */
export function EnterTags({ batch, onClose }: Props) {
  const { membership } = useHere();
  const currency = membership.currency || undefined;
  const [id] = useState(() => batch?.id ?? uuid());
  const [kind, setKind] = useState<Kind>(batch?.kind ?? "pit");
  const [told, setTold] = useState<Told>(batch ?? { ...NOTHING, received: today() });
  const [numbers, setNumbers] = useState("");
  const enter = useEnterBatch(membership.programme);
  const describe = useDescribeBatch();
  const add = useAddNumbers();
  const failure = enter.error ?? describe.error ?? add.error;
  const put = <Name extends keyof Told>(name: Name, value: Told[Name]) => setTold({ ...told, [name]: value });

  const keep = async (event: FormEvent) => {
    event.preventDefault();
    const { name, ...rest } = Object.fromEntries(
      Object.keys(NOTHING).map((each) => [each, told[each as keyof Told]]),
    ) as Told;
    const body = { name: name || proposedName(kind), ...rest };
    const taken = batch
      ? await describe
          .mutateAsync({ batch: batch.id, body })
          .then(() => (numbers.trim() ? add.mutateAsync({ batch: batch.id, numbers }) : null))
          .catch(() => undefined) // the refusal is shown below
      : await enter.mutateAsync({ id, kind, ...body, numbers }).catch(() => undefined);
    if (taken === undefined) return;
    if (taken) notify(`${taken.batch.name}: ${takenWords(taken.taken)}.`);
    onClose();
  };
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={batch ? batch.name : "Enter tags"}
      description={batch ? "More numbers, or what is known of them." : "A box or bag of one kind, with its numbers."}
    >
      <form onSubmit={keep} className="grid gap-4 sm:grid-cols-2">
        <div className="grid content-start gap-3">
          {!batch && (
            <Choice label="Kind" value={kind} autoFocus onChange={(event) => setKind(event.target.value as Kind)}>
              {Object.entries(KINDS).map(([code, words]) => (
                <option key={code} value={code}>
                  {words}
                </option>
              ))}
            </Choice>
          )}
          <NumbersField kind={kind} batch={batch?.id ?? null} value={numbers} onChange={setNumbers} />
        </div>
        <div className="grid content-start gap-3 sm:grid-cols-2">
          <div className="sm:col-span-2">
            <Field
              label="Name of the batch"
              placeholder={proposedName(kind)}
              maxLength={40}
              value={told.name}
              onChange={(event) => put("name", event.target.value)}
            />
          </div>
          <Field
            label="Colour"
            maxLength={30}
            value={told.colour}
            onChange={(event) => put("colour", event.target.value)}
          />
          <NumberField
            live
            optional
            label="Length of the tag"
            unit="mm"
            value={told.size_mm}
            onNumber={(mm) => put("size_mm", mm)}
          />
          <NumberField
            live
            optional
            label="Mass in air"
            unit="g"
            value={told.mass_g}
            onNumber={(g) => put("mass_g", g)}
          />
          {POWERED.includes(kind) && (
            <NumberField
              live
              optional
              label="Battery, from activation"
              unit="days"
              value={told.battery_days}
              onNumber={(days) => put("battery_days", days)}
            />
          )}
          {POWERED.includes(kind) && (
            <>
              <NumberField
                live
                optional
                label="Frequency"
                unit="kHz"
                value={told.frequency_khz}
                onNumber={(khz) => put("frequency_khz", khz)}
              />
              <Field
                label="Code space"
                maxLength={40}
                value={told.code_space}
                onChange={(event) => put("code_space", event.target.value)}
              />
            </>
          )}
          <DayField label="Received" value={told.received ?? ""} onDay={(day) => put("received", day || null)} />
          <details
            className="group sm:col-span-2"
            open={Boolean(batch?.supplier || batch?.reward || batch?.price_each || batch?.meaning)}
          >
            <summary className="flex min-h-[44px] cursor-pointer items-center font-semibold">
              <span className="mr-1 inline-block group-open:rotate-90">▸</span> Supplier, price, reward, what the colour
              means
            </summary>
            <div className="grid gap-3 sm:grid-cols-2">
              <Field
                label="What the colour means"
                placeholder="females, tank 3, year 2026"
                maxLength={60}
                value={told.meaning}
                onChange={(event) => put("meaning", event.target.value)}
              />
              <NumberField
                live
                optional
                label="Reward promised on the tag"
                unit={currency}
                value={told.reward}
                onNumber={(amount) => put("reward", amount)}
              />
              <Field
                label="Supplier"
                maxLength={80}
                value={told.supplier}
                onChange={(event) => put("supplier", event.target.value)}
              />
              <NumberField
                live
                optional
                label="Price each"
                unit={currency}
                value={told.price_each}
                onNumber={(price) => put("price_each", price)}
              />
            </div>
          </details>
          <div className="sm:col-span-2">
            <Field
              label="Note"
              maxLength={200}
              value={told.note}
              onChange={(event) => put("note", event.target.value)}
            />
          </div>
        </div>
        {failure && (
          <div className="sm:col-span-2">
            <ErrorMessage failure={failure} />
          </div>
        )}
        <Button
          type="submit"
          look="ink"
          large
          className="sm:col-span-2"
          disabled={enter.isPending || add.isPending || describe.isPending || (!batch && !numbers.trim())}
        >
          {batch ? "Keep it" : "Into the stock"}
        </Button>
      </form>
    </Sheet>
  );
}
