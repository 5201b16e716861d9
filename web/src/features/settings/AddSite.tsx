import { useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { useAddSite } from "@/features/waters";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { PositionFields, PositionOnMap, positionOf } from "./PositionFields";

/** Adds a site of a waterbody; ready for the next one at once. */
export function AddSite({ water }: { water: string }) {
  const add = useAddSite(water);
  const errors = fieldErrors(add.error);
  const { register, control, handleSubmit, reset } = useForm({
    defaultValues: { name: "", zone: "", latitude: "", longitude: "" },
  });
  const save = handleSubmit(({ name, zone, latitude, longitude }) =>
    add.mutate({ name, zone, ...positionOf({ latitude, longitude }) }, { onSuccess: () => reset() }),
  );
  return (
    <form
      className="mt-2 grid max-w-3xl grid-cols-2 items-end gap-3 md:grid-cols-[2fr_1fr_1fr_1fr_auto]"
      onSubmit={save}
    >
      <Field label="Site name" required maxLength={60} error={errors.name} {...register("name")} />
      <Field label="Zone (optional)" maxLength={60} error={errors.zone} {...register("zone")} />
      <PositionFields register={register} control={control} errors={errors} />
      <Button type="submit" disabled={add.isPending}>
        Add site
      </Button>
      <PositionOnMap control={control} water={water} />
      <Refusal failure={add.error} fields={["name", "zone", "latitude", "longitude"]} />
    </form>
  );
}
