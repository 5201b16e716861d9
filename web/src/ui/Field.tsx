import { type ComponentProps, type InvalidEvent, useId, useState } from "react";

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

type Entry = HTMLInputElement | HTMLSelectElement;

/** What the browser finds wrong with an entry, said in our words at its field in place of the browser's own balloon. */
function useFieldRefusal() {
  const [refusal, setRefusal] = useState("");
  return {
    refusal: refusal || undefined,
    onInvalid: (event: InvalidEvent<Entry>) => {
      event.preventDefault();
      const entry = event.currentTarget;
      setRefusal(refusalOf(entry));
      const entries = [...(entry.form?.elements ?? [])] as Entry[];
      if (entries.find(({ validity }) => validity && !validity.valid) === entry) entry.focus();
    },
    onInput: () => setRefusal(""),
  };
}

function refusalOf(entry: Entry): string {
  const { validity, value } = entry;
  if (validity.valueMissing) return "Expected an entry here; got none.";
  if (validity.typeMismatch) return "Expected a mail address, such as ada@example.org.";
  const { min = "", max = "", minLength = 0, title } = entry as Partial<HTMLInputElement>;
  if (validity.rangeUnderflow) return `Expected ${min} or more; got ${value}.`;
  if (validity.rangeOverflow) return `Expected ${max} or less; got ${value}.`;
  if (validity.tooShort) return `Expected ${minLength} characters or more; got ${value.length}.`;
  if (validity.stepMismatch || validity.badInput) return "Expected a number, and whole where it counts something.";
  return title || "This cannot be read; look at it again.";
}
