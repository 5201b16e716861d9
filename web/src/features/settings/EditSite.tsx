import { useForm } from "react-hook-form";
import { ApiError, type Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useCorrectGround } from "@/features/waters";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { PositionFields, PositionOnMap, positionOf, typedPosition } from "./PositionFields";

/** Renames or moves a site, or takes it out of use. */
export function EditSite({ site, onClose }: { site: Schemas["PlacedSite"]; onClose: () => void }) {
  const correct = useCorrectGround();
  const errors = fieldErrors(correct.error);
  const { register, control, handleSubmit } = useForm({
    defaultValues: { name: site.name, zone: site.zone, reason: "", ...typedPosition(site) },
  });
  const save = handleSubmit(({ name, zone, reason, latitude, longitude }) =>
    correct.mutate(
      { site: site.id, body: { name, zone, reason, ...positionOf({ latitude, longitude }) } },
      { onSuccess: onClose },
    ),
  );
  const remove = () =>
    correct.mutate(
      { site: site.id, deleted: true },
      {
        onSuccess: () => {
          notify(`${site.name} is deleted; what was recorded there stays.`, () =>
            correct.mutate({ site: site.id, deleted: false }),
          );
          onClose();
        },
      },
    );
  const needsReason = correct.error instanceof ApiError && correct.error.code === "reason_missing";
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Edit site ${site.name}`}
      description="A site where fish were recorded keeps its place. Another place is another site."
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <Field label="Site name" required maxLength={60} error={errors.name} {...register("name")} />
        <Field label="Zone (optional)" maxLength={60} error={errors.zone} {...register("zone")} />
        <PositionFields register={register} control={control} errors={errors} />
        <PositionOnMap control={control} />
        <div className="col-span-2">
          <Field
            label={needsReason ? "Reason (required: fish were recorded here)" : "Reason (where fish were recorded)"}
            maxLength={200}
            error={errors.reason}
            {...register("reason")}
          />
        </div>
        <Refusal failure={correct.error} fields={["name", "zone", "reason", "latitude", "longitude"]} />
        <Button type="submit" look="ink" large disabled={correct.isPending}>
          Save site
        </Button>
        <Button large disabled={correct.isPending} onClick={remove}>
          Delete site
        </Button>
      </form>
    </Sheet>
  );
}
