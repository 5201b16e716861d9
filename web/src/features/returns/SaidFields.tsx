import { type Control, Controller, type UseFormRegister } from "react-hook-form";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import type { Said } from "./said";
import { FISH_FATES, MEANS, TAG_FATES } from "./words";

interface Props {
  register: UseFormRegister<Said>;
  control: Control<Said>;
  errors: Record<string, string | undefined>;
}

/** Fields of what a report says; anything but the number may be unknown. */
export function SaidFields({ register, control, errors }: Props) {
  const { membership } = useHere();
  const { data: options } = useSelectionOptions(membership.programme);
  return (
    <>
      <Choice label="Species" error={errors.species} {...register("species")}>
        <option value="">Not known</option>
        {options?.species.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </Choice>
      <div className="grid grid-cols-2 gap-2">
        <Controller
          name="found_on"
          control={control}
          render={({ field }) => (
            <DayField label="Found on" value={field.value} onDay={field.onChange} error={errors.found_on} />
          )}
        />
        <Field
          label="Good to (± days)"
          type="number"
          min={0}
          max={3650}
          error={errors.found_within_days}
          {...register("found_within_days")}
        />
      </div>
      <Field label="Place in words" maxLength={200} error={errors.place_text} {...register("place_text")} />
      <div className="grid grid-cols-3 gap-2">
        <Field label="Latitude (°)" inputMode="decimal" error={errors.lat} {...register("lat")} />
        <Field label="Longitude (°)" inputMode="decimal" error={errors.lon} {...register("lon")} />
        <Field label="Good to (m)" inputMode="decimal" error={errors.error_m} {...register("error_m")} />
      </div>
      <Field label="Length with unit, such as 42.5 cm" maxLength={40} error={errors.length} {...register("length")} />
      <label className="flex min-h-[44px] items-center gap-2">
        <input type="checkbox" className="size-5 shrink-0" {...register("length_estimated")} />
        Length estimated, not measured
      </label>
      <Field label="Weight with unit, such as 1.2 kg" maxLength={40} error={errors.mass} {...register("mass")} />
      <Known label="Caught by" words={MEANS} {...register("means")} />
      <Known label="What became of the fish" words={FISH_FATES} {...register("fish_fate")} />
      <Known label="What became of the tag" words={TAG_FATES} {...register("tag_fate")} />
    </>
  );
}

function Known({ label, words, ...rest }: { label: string; words: Record<string, string> } & object) {
  return (
    <Choice label={label} {...rest}>
      <option value="">Not known</option>
      {Object.entries(words).map(([code, text]) => (
        <option key={code} value={code}>
          {text}
        </option>
      ))}
    </Choice>
  );
}
