import { Choice } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { Figures, Known, Part } from "./Figures";
import type { PartProps, Values } from "./values";

/** What law and programme ask of it. */
export function RulePart({ values, set, wrong, field }: PartProps) {
  return (
    <Part title="Regulations and tagging" open={field?.startsWith("legal")}>
      <Known
        what="a legal size or bag"
        known={values.legal !== null}
        onKnown={(is) => set({ legal: is ? { min_mm: null, max_mm: null, bag: null, source: "" } : null })}
      />
      {values.legal && (
        <Figures
          part={values.legal}
          names={{ min_mm: "may be kept from (mm)", max_mm: "to (mm)", bag: "fish a person and day" }}
          at="legal"
          optional
          wrong={wrong}
          onChange={(legal) => set({ legal })}
        />
      )}
      <div className="mt-3 grid grid-cols-2 gap-3">
        <NumberField
          live
          optional
          label="Smallest fish to tag"
          unit="mm"
          value={values.smallest_to_tag_mm}
          error={wrong("smallest_to_tag_mm")}
          onNumber={(smallest_to_tag_mm) => set({ smallest_to_tag_mm })}
        />
        <label className="flex min-h-[44px] items-center gap-2 self-end">
          <input
            type="checkbox"
            className="size-5"
            checked={values.special_interest}
            onChange={() => set({ special_interest: !values.special_interest })}
          />
          the lead wants to hear of each one
        </label>
        <label className="flex min-h-[44px] items-center gap-2 self-end">
          <input
            type="checkbox"
            className="size-5"
            checked={values.places_hidden}
            onChange={() => set({ places_hidden: !values.places_hidden })}
          />
          its sites are shown to crew, biologists and leads only
        </label>
        <Choice
          label="Swim bladder"
          hint="Of a fish from depth it says whether gas lifts it."
          value={values.swim_bladder}
          onChange={(event) => set({ swim_bladder: event.target.value as Values["swim_bladder"] })}
        >
          <option value="closed">closed: gas stays in</option>
          <option value="open">open to the gut: some leaves on the way up</option>
          <option value="none">none</option>
        </Choice>
      </div>
    </Part>
  );
}
