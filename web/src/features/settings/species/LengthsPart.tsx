import { Choice } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { Part } from "./Figures";
import { type PartProps, TYPES, type Values } from "./values";

const LENGTHS = [
  ["usual_from_mm", "Usually from"],
  ["usual_to_mm", "Usually to"],
  ["least_mm", "None is shorter than"],
  ["most_mm", "None is longer than"],
] as const;

/** How its lengths are measured, and which are believable. */
export function LengthsPart({ values, set, wrong }: PartProps) {
  return (
    <Part title="Lengths" open>
      <div className="grid grid-cols-2 gap-3">
        <div className="col-span-2">
          <Choice
            label="Measured as"
            value={values.length_type}
            onChange={(event) => set({ length_type: event.target.value as Values["length_type"] })}
          >
            {Object.entries(TYPES).map(([type, words]) => (
              <option key={type} value={type}>
                {type}, {words}
              </option>
            ))}
          </Choice>
        </div>
        {LENGTHS.map(([name, label]) => (
          <NumberField
            key={name}
            live
            label={label}
            unit="mm"
            value={values[name]}
            error={wrong(name)}
            onNumber={(number) => set({ [name]: number })}
          />
        ))}
      </div>
    </Part>
  );
}
