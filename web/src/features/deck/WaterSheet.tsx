import { zodResolver } from "@hookform/resolvers/zod";
import { useForm, useWatch } from "react-hook-form";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Sheet } from "@/ui/Sheet";
import { z } from "@/ui/z";
import type { DeckStore } from "./deck-store";
import { figure } from "./numbers";
import { recordWater } from "./operations/water-record";
import { saturationHint } from "./oxygen";

const form = z
  .object({
    temperature_c: figure(-2, 40, "°C"),
    ambient_us_cm: figure(1, 100_000, "µS/cm"),
    specific_us_cm: figure(1, 100_000, "µS/cm"),
    oxygen_mg_l: figure(0, 30, "mg/L"),
    secchi_m: figure(0, 80, "m"),
  })
  .refine((figures) => Object.values(figures).some((value) => value !== null), {
    message: "Expected at least one figure.",
    path: ["temperature_c"],
  });

const asNumber = (text: string) => (text.trim() && Number.isFinite(Number(text)) ? Number(text) : null);

/** What the probe says. Conductivity is kept as it was read: ambient, or at 25 °C. */
export function WaterSheet({ store, onClose }: { store: DeckStore; onClose: () => void }) {
  const { register, handleSubmit, formState, control } = useForm({
    resolver: zodResolver(form),
    defaultValues: { temperature_c: "", ambient_us_cm: "", specific_us_cm: "", oxygen_mg_l: "", secchi_m: "" },
  });
  const { errors } = formState;
  const [temperature, oxygen] = useWatch({ control, name: ["temperature_c", "oxygen_mg_l"] });
  const save = handleSubmit(async (figures) => {
    await recordWater(store, figures);
    onClose();
  });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Water reading"
      description="Fill in what was read; the rest stays empty."
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3" noValidate>
        <Field
          label="Temperature"
          unit="°C"
          inputMode="decimal"
          autoFocus
          error={errors.temperature_c?.message}
          {...register("temperature_c")}
        />
        <Field
          label="Dissolved oxygen"
          unit="mg/L"
          inputMode="decimal"
          error={errors.oxygen_mg_l?.message}
          hint={saturationHint(asNumber(temperature), asNumber(oxygen))}
          {...register("oxygen_mg_l")}
        />
        <Field
          label="Conductivity, ambient"
          unit="µS/cm"
          inputMode="decimal"
          error={errors.ambient_us_cm?.message}
          {...register("ambient_us_cm")}
        />
        <Field
          label="Conductivity at 25 °C"
          unit="µS/cm"
          inputMode="decimal"
          error={errors.specific_us_cm?.message}
          {...register("specific_us_cm")}
        />
        <Field
          label="Secchi depth"
          unit="m"
          inputMode="decimal"
          error={errors.secchi_m?.message}
          {...register("secchi_m")}
        />
        <Button type="submit" look="ink" large disabled={formState.isSubmitting} className="col-span-2">
          Keep
        </Button>
      </form>
    </Sheet>
  );
}
