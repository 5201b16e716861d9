import { Controller, useForm } from "react-hook-form";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Sheet } from "@/ui/Sheet";
import type { CardRow } from "./cards";
import type { Card, Kit } from "./scope";

interface Props {
  /** Null: a new one, from paper. */
  card: Card | null;
  kit: Kit;
  onClose: () => void;
  onSave: (row: CardRow) => void;
}

const BLOCKS = ["dawn", "morning", "midday", "afternoon", "evening", "night"];

/** A card put right: only what is changed here changes. */
export function CardSheet({ card, kit, onClose, onSave }: Props) {
  const { register, handleSubmit, formState, control } = useForm({
    defaultValues: {
      number_text: card?.number_text ?? "",
      species: card?.species ?? "",
      length: card?.length_text ?? "",
      length_basis: card?.length_basis || "measured",
      caught_on: card?.caught_on ?? "",
      block: card?.block ?? "",
      place_text: card?.place_text ?? "",
      condition: card?.condition ? String(card.condition) : "",
      remarks: card?.remarks ?? "",
    },
  });
  const { dirtyFields } = formState; // read here, so that the form keeps it
  const save = handleSubmit((form) => {
    const row: Record<string, unknown> = {};
    for (const name of Object.keys(dirtyFields) as (keyof typeof form)[]) row[name] = form[name];
    if ("condition" in row) row.condition = form.condition ? Number(form.condition) : null;
    // a length is told whole: what is typed, how it was taken, of which species
    if ("length" in row || "length_basis" in row)
      Object.assign(row, { length: form.length, length_basis: form.length_basis, species: form.species });
    if (Object.keys(row).length) onSave(row as CardRow);
    else onClose();
  });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={card ? `Card ${card.number_text || "without a tag"}` : `Paper card of ${kit.person_name}`}
      description={
        card
          ? "Correct what was read wrong; what it said before stays in the history."
          : "As it stands on the card; what is not on it stays empty, and is shown as missing."
      }
    >
      <form onSubmit={save} className="grid gap-3">
        <Field label="Number on the tag" maxLength={40} {...register("number_text")} />
        <Choice label="Species" {...register("species")}>
          <option value="">Not known</option>
          {kit.species.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Choice>
        <div className="grid grid-cols-2 gap-2">
          <Field label="Length with unit" maxLength={40} {...register("length")} />
          <Choice label="Taken" {...register("length_basis")}>
            <option value="measured">Measured</option>
            <option value="estimated">Estimated</option>
          </Choice>
          <Controller
            name="caught_on"
            control={control}
            render={({ field }) => <DayField label="Date" value={field.value} onDay={field.onChange} />}
          />
          <Choice label="Time of day" {...register("block")}>
            <option value="">Not noted</option>
            {BLOCKS.map((each) => (
              <option key={each} value={each}>
                {each[0]!.toUpperCase() + each.slice(1)}
              </option>
            ))}
          </Choice>
        </div>
        <Field label="Place in words" maxLength={200} {...register("place_text")} />
        <Choice label="Condition at release" {...register("condition")}>
          <option value="">Not noted</option>
          {kit.conditions.map(({ code, words }) => (
            <option key={code} value={code}>
              {code} {words}
            </option>
          ))}
        </Choice>
        <Field label="Remarks" maxLength={1000} {...register("remarks")} />
        <Button type="submit" look="ink" large>
          Save card
        </Button>
      </form>
    </Sheet>
  );
}
