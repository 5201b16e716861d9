import type { ApiError, Schemas } from "@/api/client";
import { Caution } from "@/ui/Caution";
import { Numbers } from "../Numbers";
import type { Survey } from "../queries";

interface Props {
  bath: Survey["parts"]["bath"];
  kit: Schemas["Kit"] | undefined;
  error: ApiError | null;
  onChange: (change: Partial<Survey["parts"]["bath"]>) => void;
}

/** The bath in the tank that is there, with its recipe. */
export function BathPart({ bath, kit, error, onChange }: Props) {
  const size = {
    litres: ["Litres", "", ""],
    box: ["Length", "Width", "Filled to"],
    cylinder: ["Diameter", "", "Filled to"],
    half_barrel: ["Diameter", "Length", "Filled to"],
  }[bath.shape ?? "box"]!;
  return (
    <section aria-labelledby="bath">
      <h2 id="bath" className="mb-2 text-lg font-semibold">
        Bath
      </h2>
      <Numbers
        specs={[
          {
            name: "agent",
            label: "Agent",
            options: [
              { value: "", label: "none" },
              { value: "clove-oil", label: "Clove oil, 1:9 in ethanol" },
              { value: "tricaine", label: "Tricaine methanesulfonate, 100 g/L" },
            ],
          },
          {
            name: "purpose",
            label: "To",
            options: ["calm", "measure", "surgery"].map((value) => ({ value, label: value })),
          },
          { name: "target_mg_l", label: "Target", unit: "mg/L" },
          {
            name: "shape",
            label: "Tank",
            options: [
              { value: "box", label: "box" },
              { value: "cylinder", label: "upright cylinder" },
              { value: "half_barrel", label: "half barrel" },
              { value: "litres", label: "litres are known" },
            ],
          },
          { name: "a_cm", label: size[0]!, unit: bath.shape === "litres" ? "L" : "cm" },
          ...(size[1] ? [{ name: "b_cm", label: size[1], unit: "cm" }] : []),
          ...(size[2] ? [{ name: "fill_cm", label: size[2], unit: "cm" }] : []),
          { name: "refills", label: "Fillings in the day" },
          { name: "cap_ml", label: "The crew's own measure", unit: "mL" },
          { name: "trial_fish", label: "Trial before others go in (0: none)", unit: "fish" },
        ]}
        values={bath}
        error={error}
        onChange={onChange}
      />
      {kit?.bath_refused && (
        <p className="mt-3 border-l-4 border-signal pl-3 font-semibold text-signal">! {kit.bath_refused}</p>
      )}
      {kit?.bath && <Recipe bath={kit.bath} target={bath.target_mg_l ?? 0} cap={bath.cap_ml ?? 1} />}
    </section>
  );
}

function Recipe({ bath, target, cap }: { bath: Schemas["BathShown"]; target: number; cap: number }) {
  return (
    <div className="mt-3">
      <p className="text-xl" data-testid="recipe">
        <strong>{bath.stock_ml.toFixed(1)} mL</strong> of stock into {bath.litres.toFixed(0)} L gives {target} mg/L:{" "}
        {bath.caps.toFixed(1)} of the crew's {cap} mL.
      </p>
      <p className="mt-1">
        Take {bath.spare_ml.toFixed(0)} mL along. Range here {bath.low_mg_l} to {bath.high_mg_l} mg/L. {bath.note}
      </p>
      <Caution>{bath.caution}</Caution>
    </div>
  );
}
