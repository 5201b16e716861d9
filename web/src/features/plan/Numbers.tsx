import { Choice } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";

export interface Spec {
  name: string;
  label: string;
  unit?: string;
  /** Choices; without them a number is typed. */
  options?: { value: string; label: string }[];
  /** An empty field means "none". */
  optional?: boolean;
  /** Takes the whole width. */
  wide?: boolean;
}

interface Props<T extends object> {
  specs: Spec[];
  values: T;
  /** Called when a field is left or chosen, with that field alone: two quick edits both last. */
  onChange: (change: Partial<T>) => void;
  error?: { field: string | null; message: string } | null;
}

/** Labelled figures of one part of a plan; a change counts when the field is left. */
export function Numbers<T extends object>({ specs, values, onChange, error }: Props<T>) {
  const known = values as Record<string, unknown>;
  const set = (name: string, value: unknown) => {
    if (value !== known[name]) onChange({ [name]: value } as Partial<T>);
  };
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      {specs.map(({ name, label, unit, options, optional, wide }) => {
        const wrong = error?.field?.split(".").at(-1) === name ? error.message : undefined;
        if (options)
          return (
            <div key={name} className={wide ? "col-span-2" : undefined}>
              <Choice
                label={label}
                value={String(known[name] ?? "")}
                error={wrong}
                onChange={(event) => set(name, event.target.value)}
              >
                {options.map(({ value, label: text }) => (
                  <option key={value} value={value}>
                    {text}
                  </option>
                ))}
              </Choice>
            </div>
          );
        return (
          <NumberField
            key={name}
            label={label}
            unit={unit}
            optional={optional}
            value={known[name] as number | null}
            error={wrong}
            onNumber={(value) => set(name, value)}
          />
        );
      })}
    </div>
  );
}
