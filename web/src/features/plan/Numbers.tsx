import { Choice, Field } from "@/ui/Field";

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
  /** Called when a field is left or chosen, with all values. */
  onChange: (values: T) => void;
  error?: { field: string | null; message: string } | null;
}

/** Labelled figures of one part of a plan; a change counts when the field is left. */
export function Numbers<T extends object>({ specs, values, onChange, error }: Props<T>) {
  const known = values as Record<string, unknown>;
  const set = (name: string, value: unknown) => {
    if (value !== known[name]) onChange({ ...values, [name]: value });
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
          <Field
            key={`${name} ${known[name]}`}
            label={label}
            unit={unit}
            inputMode="decimal"
            defaultValue={known[name] === null || known[name] === undefined ? "" : String(known[name])}
            error={wrong}
            onBlur={(event) => {
              const text = event.target.value.trim().replace(",", ".");
              if (text === "" && optional) set(name, null);
              else if (text !== "" && Number.isFinite(Number(text))) set(name, Number(text));
            }}
            onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          />
        );
      })}
    </div>
  );
}
