import { useId } from "react";

interface Props<T extends string> {
  label: string;
  options: readonly (readonly [T, string])[];
  chosen: T;
  onChoose: (value: T) => void;
  children?: React.ReactNode;
}

/** One of a few, each to be touched; touched again it is open once more. */
export function OneOf<T extends string>({ label, options, chosen, onChoose, children }: Props<T>) {
  const name = useId();
  return (
    <fieldset className="mt-4">
      <legend className="pb-1 text-base font-semibold">{label}</legend>
      <div className="flex flex-wrap gap-2">
        {options.map(([value, text]) => (
          <label
            key={value}
            className={`inline-flex min-h-[44px] cursor-pointer touch-manipulation items-center rounded-sm border px-3 has-focus-visible:outline-3 has-focus-visible:outline-ink ${value === chosen ? "border-ink bg-ink text-on-ink" : "border-line bg-raised"}`}
          >
            <input
              type="radio"
              name={name}
              className="sr-only"
              checked={value === chosen}
              onChange={() => onChoose(value)}
              onClick={() => value === chosen && onChoose("" as T)}
            />
            {text}
          </label>
        ))}
      </div>
      {children}
    </fieldset>
  );
}
