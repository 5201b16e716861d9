interface Props<T extends string | number> {
  /** What is chosen, for instance "Bin width (mm)". */
  label: string;
  options: { value: T; label: string }[];
  chosen: T;
  onChoose: (value: T) => void;
}

/** One of a few, all in sight. */
export function Choices<T extends string | number>({ label, options, chosen, onChoose }: Props<T>) {
  return (
    <fieldset className="flex flex-wrap items-center gap-1.5">
      <legend className="sr-only">{label}</legend>
      <span className="text-sm text-muted" aria-hidden="true">
        {label}
      </span>
      {options.map(({ value, label: text }) => (
        <label
          key={value}
          className={`cursor-pointer rounded-sm border px-2 py-1 has-focus-visible:outline-3 has-focus-visible:outline-ink ${value === chosen ? "border-ink bg-ink text-on-ink" : "border-line"}`}
        >
          <input
            type="radio"
            name={label}
            className="sr-only"
            checked={value === chosen}
            onChange={() => onChoose(value)}
          />
          {text}
        </label>
      ))}
    </fieldset>
  );
}
