import { useForm } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useNewWater } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { PositionFields, PositionOnMap, positionOf } from "./PositionFields";

/** Adds a waterbody by name and, where it is known, a point. */
export function NewWater({ onClose }: { onClose: (made?: string) => void }) {
  const { membership } = useHere();
  const make = useNewWater(membership.programme);
  const errors = fieldErrors(make.error);
  const { register, control, handleSubmit } = useForm({
    defaultValues: { name: "", kind: "lake" as Schemas["Water"]["kind"], latitude: "", longitude: "" },
  });
  const save = handleSubmit(({ name, kind, latitude, longitude }) =>
    make.mutate({ name, kind, ...positionOf({ latitude, longitude }) }, { onSuccess: ({ id }) => onClose(id) }),
  );
  return (
    <Sheet
      open
      onOpenChange={() => onClose()}
      title="Add waterbody"
      description="A point makes a site there at once; a line or shore can follow."
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <Field label="Name" required maxLength={120} error={errors.name} {...register("name")} />
        <Choice label="Kind" error={errors.kind} {...register("kind")}>
          <option value="lake">lake</option>
          <option value="river">river</option>
          <option value="coast">coast</option>
        </Choice>
        <PositionFields register={register} control={control} errors={errors} />
        <PositionOnMap control={control} />
        <Refusal failure={make.error} fields={["name", "kind", "latitude", "longitude"]} />
        <Button type="submit" look="ink" large className="col-span-2" disabled={make.isPending}>
          Add waterbody
        </Button>
      </form>
    </Sheet>
  );
}
