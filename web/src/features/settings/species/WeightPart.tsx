import { Figures, Known, Part } from "./Figures";
import type { PartProps } from "./values";

/** The standard weight that relative weight is held against. */
export function WeightPart({ values, set, wrong, field }: PartProps) {
  return (
    <Part title="Standard weight" open={field?.startsWith("standard_weight")}>
      <Known
        what="a standard weight"
        known={values.standard_weight !== null}
        onKnown={(is) => set({ standard_weight: is ? { a: -5, b: 3, min_mm: 100, source: "" } : null })}
      />
      {values.standard_weight && (
        <Figures
          part={values.standard_weight}
          names={{ a: "a", b: "b", min_mm: "valid from (mm)" }}
          at="standard_weight"
          wrong={wrong}
          onChange={(standard_weight) => set({ standard_weight })}
        />
      )}
    </Part>
  );
}
