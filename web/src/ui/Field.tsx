import { type ComponentProps, useId } from "react";
import { useFieldRefusal } from "./field-refusal";

interface Extra {
  label: string;
  unit?: string;
  error?: string;
  hint?: string;
}

const BOX = "min-h-[44px] w-full rounded-sm border border-line bg-raised px-2.5 text-ink aria-invalid:border-signal";

/** A labelled input with its unit, and the error at the field it belongs to. */
export function Field({ label, unit, error, hint, ...rest }: Extra & ComponentProps<"input">) {
  const id = useId();
  const { refusal, onInvalid, onInput } = useFieldRefusal();
  const said = error ?? refusal;
  return (
    <Labelled id={id} label={unit ? `${label} (${unit})` : label} error={said} hint={hint}>
      <input
        id={id}
        className={BOX}
        aria-invalid={Boolean(said)}
        aria-describedby={`${id}-note`}
        onInvalid={onInvalid}
        onInput={onInput}
        {...rest}
      />
    </Labelled>
  );
}

/** A labelled choice. */
export function Choice({ label, error, hint, children, ...rest }: Extra & ComponentProps<"select">) {
  const id = useId();
  const { refusal, onInvalid, onInput } = useFieldRefusal();
  const said = error ?? refusal;
  return (
    <Labelled id={id} label={label} error={said} hint={hint}>
      <select
        id={id}
        className={BOX}
        aria-invalid={Boolean(said)}
        aria-describedby={`${id}-note`}
        onInvalid={onInvalid}
        onInput={onInput}
        {...rest}
      >
        {children}
      </select>
    </Labelled>
  );
}

function Labelled({
  id,
  label,
  error,
  hint,
  children,
}: {
  id: string;
  label: string;
  error?: string;
  hint?: string;
  children: React.ReactNode;
}) {
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-sm text-muted">
        {label}
      </label>
      {children}
      <p
        id={`${id}-note`}
        className={`text-sm empty:hidden ${error ? "text-signal" : "text-muted"}`}
        role={error ? "alert" : undefined}
      >
        {error ?? hint}
      </p>
    </div>
  );
}
