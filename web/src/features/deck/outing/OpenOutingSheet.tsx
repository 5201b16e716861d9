import { zodResolver } from "@hookform/resolvers/zod";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { Controller, useForm } from "react-hook-form";
import { v7 as uuidv7 } from "uuid";
import { answer, api } from "@/api/client";
import { useWaters } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { ManyOf } from "@/ui/ManyOf";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { GEARS, type GearCode } from "@/ui/words/gears";
import { z } from "@/ui/z";

const form = z.object({
  water: z.string().min(1, "Choose the water."),
  date: z.iso.date("Expected a day."),
  gear: z.enum(GEARS.map(({ code }) => code)),
  more_gears: z.array(z.enum(GEARS.map(({ code }) => code))),
  name: z.string().max(120, "Expected at most 120 characters."),
  length_unit: z.enum(["mm", "cm", "in"]),
  mass_unit: z.enum(["g", "kg", "lb", "oz"]),
});

export function OpenOutingSheet({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const path = { params: { path: { programme_id: membership.programme } } };
  const navigate = useNavigate();
  const client = useQueryClient();
  const [id] = useState(() => uuidv7()); // one key for this sheet: a second touch opens no second outing
  const [failure, setFailure] = useState<Error | null>(null);
  const { data: waters } = useWaters(membership.programme);
  const { register, control, handleSubmit, formState } = useForm({
    resolver: zodResolver(form),
    defaultValues: {
      water: "",
      date: new Date().toLocaleDateString("sv"),
      gear: "boat_electrofishing" as GearCode,
      more_gears: [] as GearCode[],
      name: "",
      length_unit: membership.length_unit ?? "mm",
      mass_unit: membership.mass_unit ?? "g",
    },
  });
  const { errors, isSubmitting } = formState;
  const open = handleSubmit(async (values) => {
    try {
      const outing = await answer(
        api.POST("/api/v1/programmes/{programme_id}/outings", { ...path, body: { id, ...values } }),
      );
      await client.invalidateQueries({ queryKey: ["outings"] });
      await navigate({ to: "/deck/$outing", params: { outing: outing.id } });
    } catch (error) {
      setFailure(error as Error);
    }
  });
  return (
    <Sheet
      open
      onOpenChange={(isOpen) => !isOpen && onClose()}
      title="Open an outing"
      description="A day or night on one water."
    >
      <form onSubmit={open} className="grid grid-cols-2 gap-3" noValidate>
        <div className="col-span-2">
          <Choice
            label="Water"
            error={errors.water?.message}
            hint={
              waters?.length === 0
                ? "There is none yet: add one under your name, Settings, Waters and sites."
                : undefined
            }
            {...register("water")}
          >
            <option value="">Choose...</option>
            {waters?.map((water) => (
              <option key={water.id} value={water.id}>
                {water.name}
              </option>
            ))}
          </Choice>
        </div>
        <Controller
          control={control}
          name="date"
          render={({ field }) => (
            <DayField label="Day" value={field.value} onDay={field.onChange} error={errors.date?.message} />
          )}
        />
        <Choice label="Gear" {...register("gear")}>
          {GEARS.map(({ code, label }) => (
            <option key={code} value={code}>
              {label}
            </option>
          ))}
        </Choice>
        <div className="col-span-2">
          <Controller
            control={control}
            name="more_gears"
            render={({ field }) => (
              <ManyOf
                label="Also used"
                none="no others"
                items={GEARS.map(({ code, label }) => ({ value: code, label }))}
                chosen={field.value}
                onChange={field.onChange}
              />
            )}
          />
        </div>
        <Choice label="Length unit" {...register("length_unit")}>
          <option>mm</option>
          <option>cm</option>
          <option>in</option>
        </Choice>
        <Choice label="Weight unit" {...register("mass_unit")}>
          <option>g</option>
          <option>kg</option>
          <option>lb</option>
          <option>oz</option>
        </Choice>
        <div className="col-span-2">
          <Field
            label="Name"
            hint="Left empty it is named by water and gear."
            error={errors.name?.message}
            {...register("name")}
          />
        </div>
        {failure && (
          <div className="col-span-2">
            <ErrorMessage failure={failure} />
          </div>
        )}
        <Button type="submit" look="ink" large className="col-span-2" disabled={isSubmitting}>
          Open
        </Button>
      </form>
    </Sheet>
  );
}
