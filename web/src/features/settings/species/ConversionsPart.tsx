import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Field";
import { Figures, Part } from "./Figures";
import { type PartProps, replaced, TYPES } from "./values";

/** Lines from other ways of measuring to its own. */
export function ConversionsPart({ values, set, wrong, field }: PartProps) {
  return (
    <Part title="Length conversions" open={field?.startsWith("conversions")}>
      <p className="text-sm text-muted">
        {values.length_type} = intercept + slope × the other length. With the line's residual SD; findings then use such
        lengths as derived, and say so.
      </p>
      {values.conversions.map((each, place) => (
        <div key={`${place}-${each.from_type}`} className="mt-2 border-l-4 border-line pl-3">
          <Choice
            label="Measured as"
            value={each.from_type}
            error={wrong(`conversions.${place}.from_type`)}
            onChange={(event) =>
              set({
                conversions: replaced(values.conversions, place, { ...each, from_type: event.target.value as "FL" }),
              })
            }
          >
            {Object.keys(TYPES).map((type) => (
              <option key={type}>{type}</option>
            ))}
          </Choice>
          <Figures
            part={each}
            names={{ intercept_mm: "intercept (mm)", slope: "slope", residual_sd_mm: "residual SD (mm)" }}
            at={`conversions.${place}`}
            wrong={wrong}
            onChange={(next) => set({ conversions: replaced(values.conversions, place, next) })}
          />
          <Button
            className="mt-2"
            onClick={() => set({ conversions: values.conversions.filter((_, other) => other !== place) })}
          >
            Delete
          </Button>
        </div>
      ))}
      <Button
        className="mt-2"
        onClick={() =>
          set({
            conversions: [
              ...values.conversions,
              {
                from_type: values.length_type === "FL" ? "TL" : "FL",
                intercept_mm: 0,
                slope: 1,
                residual_sd_mm: null,
                source: "",
              },
            ],
          })
        }
      >
        Add a conversion
      </Button>
    </Part>
  );
}
