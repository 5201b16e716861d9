import { useState } from "react";
import { useForm } from "react-hook-form";
import { ApiError, type Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useCorrectGround } from "@/features/waters";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { PositionFields, PositionOnMap, positionOf, typedPosition } from "./PositionFields";

/** Renames or moves a waterbody, or deletes one at which nothing was fished. */
export function EditWater({ water, onClose }: { water: Schemas["Water"]; onClose: () => void }) {
  const correct = useCorrectGround();
  const [asked, setAsked] = useState(false);
  const errors = fieldErrors(correct.error);
  const isPoint = water.shape === "" || water.shape === "Point";
  const { register, control, handleSubmit } = useForm({
    defaultValues: { name: water.name, kind: water.kind, reason: "", ...typedPosition(water) },
  });
  const save = handleSubmit(({ name, kind, reason, latitude, longitude }) => {
    const place = isPoint ? positionOf({ latitude, longitude }) : {};
    correct.mutate({ water: water.id, body: { name, kind, reason, ...place } }, { onSuccess: onClose });
  });
  const remove = () =>
    correct.mutate(
      { water: water.id, deleted: true },
      {
        onSuccess: () => {
          notify(`${water.name} is deleted.`);
          onClose();
        },
      },
    );
  const needsReason = correct.error instanceof ApiError && correct.error.code === "reason_missing";
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Edit ${water.name}`}
      description="A waterbody where fish were recorded keeps its place. Another place is another waterbody."
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <Field label="Name" required maxLength={120} error={errors.name} {...register("name")} />
        <Choice label="Kind" error={errors.kind} {...register("kind")}>
          <option value="lake">lake</option>
          <option value="river">river</option>
          <option value="coast">coast</option>
        </Choice>
        {isPoint && <PositionFields register={register} control={control} errors={errors} />}
        {isPoint && <PositionOnMap control={control} water={water.id} />}
        <div className="col-span-2">
          <Field
            label={needsReason ? "Reason (required: fish were recorded here)" : "Reason (where fish were recorded)"}
            maxLength={200}
            error={errors.reason}
            {...register("reason")}
          />
        </div>
        <Refusal failure={correct.error} fields={["name", "kind", "reason", "latitude", "longitude"]} />
        <Button type="submit" look="ink" large className="col-span-2" disabled={correct.isPending}>
          Save waterbody
        </Button>
      </form>
      <div className="mt-4 border-t border-line pt-3">
        {asked ? (
          <div className="flex flex-wrap items-center gap-2">
            <p className="font-semibold text-signal">
              ! {water.name} goes with its sites and zones. This cannot be undone.
            </p>
            <Button large look="signal" disabled={correct.isPending} onClick={remove}>
              Delete waterbody
            </Button>
            <Button large onClick={() => setAsked(false)}>
              Cancel
            </Button>
          </div>
        ) : (
          <Button onClick={() => setAsked(true)}>Delete waterbody...</Button>
        )}
      </div>
    </Sheet>
  );
}
