import { useState } from "react";
import { isNumber, readNumber } from "@/ui/words/read-number";
import { Field } from "./Field";

interface Props {
  label: string;
  unit?: string;
  hint?: string;
  value: number | null | undefined;
  /** An empty field means "none". */
  optional?: boolean;
  /** Tells every figure as it is typed, for a form that is sent by a button; without it when the field is left. */
  live?: boolean;
  /** The server's refusal of this field. */
  error?: string;
  onNumber: (value: number | null) => void;
}

/** A figure. What cannot be read is said here, and changes nothing. */
export function NumberField({ label, unit, hint, value, optional, live, error, onNumber }: Props) {
  // what is typed stays until the figure behind it is another: also where the server refused it
  const [draft, setDraft] = useState<{ text: string; of: number | null }>();
  const [unread, setUnread] = useState<string>();
  const typed = draft && draft.of === (value ?? null) ? draft.text : undefined;

  /** The figure of a text, null where none is meant; undefined where it cannot be read. */
  const figure = (text: string) => {
    const read = readNumber(text);
    if (isNumber(read)) return read.value;
    return optional && text.trim() === "" ? null : undefined;
  };
  const type = (text: string) => {
    const now = live ? (figure(text) ?? null) : (value ?? null);
    setDraft({ text, of: now });
    if (live && now !== (value ?? null)) onNumber(now);
  };
  const leave = () => {
    if (typed === undefined) return;
    const read = readNumber(typed);
    const now = figure(typed);
    setUnread(now === undefined && !isNumber(read) ? read.message : undefined);
    if (now !== undefined && now !== value) onNumber(now);
  };
  return (
    <Field
      label={label}
      unit={unit}
      hint={hint}
      inputMode="decimal"
      value={typed ?? (value === null || value === undefined ? "" : String(value))}
      error={unread ?? error}
      onChange={(event) => type(event.target.value)}
      onBlur={leave}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
