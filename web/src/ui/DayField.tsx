import { useState } from "react";
import { Field } from "./Field";

interface Props {
  label: string;
  /** YYYY-MM-DD, or nothing. */
  value: string;
  onDay: (day: string) => void;
}

/**
 * A day that counts once it is whole.
 *
 * While a year is typed the browser tells of 0002, 0020, 0202: those are shown, and wait until the year is one that can be
 * meant, or the field is left.
 */
export function DayField({ label, value, onDay }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const tell = (day: string) => day !== value && onDay(day);
  return (
    <Field
      label={label}
      type="date"
      value={typed ?? value}
      onChange={({ target }) => {
        setTyped(target.value);
        if (target.value >= "1900") tell(target.value);
      }}
      onBlur={() => {
        if (typed !== null) tell(typed);
        setTyped(null);
      }}
    />
  );
}
