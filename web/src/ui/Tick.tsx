interface Props {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** A box to tick, large enough for a finger. */
export function Tick({ label, checked, onChange }: Props) {
  return (
    <label className="flex min-h-[44px] items-center gap-2">
      <input
        type="checkbox"
        className="size-5 shrink-0"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}
