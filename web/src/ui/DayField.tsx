import { useState } from "react";
import { formatDay } from "@/ui/words/format";
import { addDays, readDay } from "@/ui/words/read-day";
import { Field } from "./Field";

interface Props {
  label: string;
  /** YYYY-MM-DD, or nothing; without it the field keeps its own, for a form. */
  value?: string;
  defaultValue?: string;
  onDay?: (day: string) => void;
  /** Under which a form sends it, as YYYY-MM-DD. */
  name?: string;
  required?: boolean;
  error?: string;
}

/**
 * A day, typed and shown as days are written everywhere here: 25 Nov 2026. It counts once it is whole; the arrow keys go a day
 * on or back.
 */
export function DayField({ label, value, defaultValue = "", onDay, name, required, error }: Props) {
  const [own, setOwn] = useState(defaultValue);
  const [typed, setTyped] = useState<string | null>(null);
  const day = value ?? own;
  const tell = (next: string) => {
    if (next === day) return;
    setOwn(next);
    onDay?.(next);
  };
  const read = typed === null ? day : readDay(typed);
  const wrong = typed !== null && typed.trim() !== "" && read === null;
  return (
    <>
      <Field
        label={label}
        inputMode="text"
        autoComplete="off"
        placeholder={formatDay("2026-11-25")}
        required={required}
        error={error}
        hint={wrong ? `Write it as ${formatDay("2026-11-25")} or 2026-11-25.` : undefined}
        value={typed ?? (day ? formatDay(day) : "")}
        onChange={({ target }) => {
          setTyped(target.value);
          const whole = readDay(target.value);
          if (whole) tell(whole);
        }}
        onBlur={() => {
          if (typed !== null && !typed.trim()) tell("");
          if (!wrong) setTyped(null);
        }}
        onKeyDown={(event) => {
          const step = { ArrowUp: 1, ArrowDown: -1 }[event.key];
          if (!step || !read) return;
          event.preventDefault();
          setTyped(null);
          tell(addDays(read, step));
        }}
      />
      {name && <input type="hidden" name={name} value={wrong ? "" : day} />}
    </>
  );
}
