import { Figures, Known, Part } from "./Figures";
import type { PartProps } from "./values";

const CATEGORIES = ["stock", "quality", "preferred", "memorable", "trophy"] as const;

/** Lengths from which it is of stock size, quality and so on. */
export function CategoriesPart({ values, set, wrong, field }: PartProps) {
  return (
    <Part title="Size categories" open={field?.startsWith("categories")}>
      <Known
        what="size categories"
        known={values.categories !== null}
        onKnown={(is) =>
          set({
            categories: is
              ? { stock: 200, quality: 300, preferred: 380, memorable: 450, trophy: 550, source: "" }
              : null,
          })
        }
      />
      {values.categories && (
        <Figures
          part={values.categories}
          names={Object.fromEntries(CATEGORIES.map((name) => [name, `${name} (mm)`]))}
          at="categories"
          wrong={wrong}
          onChange={(categories) => set({ categories })}
        />
      )}
    </Part>
  );
}
