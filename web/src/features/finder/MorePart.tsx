import { Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import type { Draft } from "./draft";
import { OneOf } from "./OneOf";
import { useWords } from "./words";

interface Props {
  draft: Draft;
  errors: Record<string, string>;
  onChange: (part: Partial<Draft>) => void;
}

const LENGTH_UNITS = ["cm", "mm", "in"];
const MASS_UNITS = ["kg", "g", "lb"];

/** Length, weight and how it was caught: what many finders do not know. */
export function MorePart({ draft, errors, onChange }: Props) {
  const { say } = useWords();
  return (
    <details className="mt-4 border-t border-line pt-2" open={Boolean(errors.length || errors.mass) || undefined}>
      <summary className="min-h-[44px] cursor-pointer py-2 text-base font-semibold">{say("more")}</summary>
      <div className="grid grid-cols-[1fr_6rem] gap-2">
        <Field
          label={say("length")}
          inputMode="decimal"
          maxLength={30}
          error={errors.length}
          value={draft.length}
          onChange={({ target }) => onChange({ length: target.value })}
        />
        <Unit
          label={say("length")}
          units={LENGTH_UNITS}
          unit={draft.length_unit}
          onChange={(length_unit) => onChange({ length_unit })}
        />
      </div>
      <Tick
        label={say("estimated")}
        checked={draft.length_estimated}
        onChange={(length_estimated) => onChange({ length_estimated })}
      />
      <div className="grid grid-cols-[1fr_6rem] gap-2">
        <Field
          label={say("weight")}
          inputMode="decimal"
          maxLength={30}
          error={errors.mass}
          value={draft.mass}
          onChange={({ target }) => onChange({ mass: target.value })}
        />
        <Unit
          label={say("weight")}
          units={MASS_UNITS}
          unit={draft.mass_unit}
          onChange={(mass_unit) => onChange({ mass_unit })}
        />
      </div>
      <OneOf
        label={say("means")}
        options={(["rod", "net", "trap", "dead", "market", "other"] as const).map((each) => [
          each,
          say(`means-${each}`),
        ])}
        chosen={draft.means ?? ""}
        onChoose={(means) => onChange({ means: means as Draft["means"] })}
      />
    </details>
  );
}

interface UnitProps {
  label: string;
  units: string[];
  unit: string;
  onChange: (unit: string) => void;
}

function Unit({ label, units, unit, onChange }: UnitProps) {
  return (
    <select
      aria-label={`${label}: ${units.join(", ")}`}
      className="mt-6 min-h-[44px] rounded-sm border border-line bg-raised px-2"
      value={unit}
      onChange={({ target }) => onChange(target.value)}
    >
      {units.map((each) => (
        <option key={each}>{each}</option>
      ))}
    </select>
  );
}
