import { useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import type { Details, EventField, EventKind } from "./events";

export type Typed = Record<string, string | number | string[] | null>;

interface Props {
  kind: EventKind;
  /** What stands already, for a correction. */
  before?: Details;
  /** Fields that are said by the place where this stands, and not asked. */
  given?: Details;
  keep?: string;
  onSay: (details: Details, changed: Typed) => void;
}

/** What may be said, by touch: choices are buttons; where a choice is all there is to say, its touch says it. */
export function EventForm({ kind, before = {}, given = {}, keep = "Save", onSay }: Props) {
  const asked = kind.fields.filter(({ name }) => !(name in given));
  const [typed, setTyped] = useState<Typed>({ ...before });
  const [problem, setProblem] = useState<string | null>(null);
  const only = asked.length === 1 && asked[0]!.choices.length > 0 && !asked[0]!.many;
  const say = (values: Typed) => {
    const wrong = asked.map((field) => complaint(field, values[field.name])).find(Boolean);
    if (wrong) return setProblem(wrong);
    const nothing = asked.every(({ name }) => empty(values[name]));
    if (nothing && asked.length > 0 && !kind.bare) return setProblem("Expected at least one value.");
    const details = Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null && value !== ""));
    const changed = Object.fromEntries(
      asked.filter(({ name }) => !same(values[name], before[name])).map(({ name }) => [name, values[name] ?? null]),
    );
    onSay({ ...details, ...given } as Details, changed);
    setTyped({});
    setProblem(null);
  };
  const set = (name: string, value: Typed[string]) => {
    const values = { ...typed, [name]: value };
    setTyped(values);
    setProblem(null);
    if (only && value) say(values);
  };
  return (
    <form
      aria-label={kind.title}
      className="grid gap-2"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        say(typed);
      }}
    >
      {inRows(asked).map((row) => (
        <div key={row[0]!.name} className={row.length > 1 ? "grid items-end gap-2 sm:grid-cols-3" : ""}>
          {row.map((field) => (
            <OneField
              key={field.name}
              field={field}
              alone={only}
              value={typed[field.name] ?? null}
              onValue={(value) => set(field.name, value)}
            />
          ))}
        </div>
      ))}
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
      {!only && (
        <Button type="submit" look="ink" large>
          {keep}
        </Button>
      )}
    </form>
  );
}

/** Fields in their order; figures and texts that follow each other share a row. */
function inRows(fields: readonly EventField[]): EventField[][] {
  const rows: EventField[][] = [];
  for (const field of fields) {
    const last = rows.at(-1);
    if (last && !field.choices.length && !last[0]!.choices.length) last.push(field);
    else rows.push([field]);
  }
  return rows;
}

interface FieldProps {
  field: EventField;
  alone: boolean;
  value: Typed[string];
  onValue: (value: Typed[string]) => void;
}

function OneField({ field, alone, value, onValue }: FieldProps) {
  const { title, unit, choices, kind, longest, needed, many } = field;
  if (choices.length) {
    const held = Array.isArray(value) ? value : [];
    const on = (code: string) => (many ? held.includes(code) : value === code);
    const touch = (code: string) => {
      if (many) onValue(on(code) ? held.filter((each) => each !== code) : [...held, code]);
      else onValue(on(code) && !alone && !needed ? null : code);
    };
    return (
      <fieldset className="min-w-0">
        <legend className={alone ? "sr-only" : "text-sm text-muted"}>{title}</legend>
        <div className="flex flex-wrap gap-1.5">
          {choices.map((each) => (
            <Button
              key={each.value}
              large
              look={on(each.value) ? "ink" : "plain"}
              aria-pressed={on(each.value)}
              className="whitespace-normal! text-left"
              onClick={() => touch(each.value)}
            >
              {each.label}
            </Button>
          ))}
        </div>
      </fieldset>
    );
  }
  if (kind === "number" || kind === "whole")
    return (
      <NumberField
        live
        optional={!needed}
        label={title}
        unit={unit}
        value={typeof value === "number" ? value : null}
        onNumber={onValue}
      />
    );
  return (
    <Field
      label={title}
      maxLength={longest}
      value={typeof value === "string" ? value : ""}
      onChange={(event) => onValue(event.target.value)}
    />
  );
}

/** What is wrong with a value, as core would say it. */
function complaint(
  { title, kind, needed, low, high, unit }: EventField,
  value: Typed[string] | undefined,
): string | null {
  if (empty(value)) return needed ? `${title}: expected something; it is empty.` : null;
  if (typeof value !== "number") return null;
  if (value < low || value > high)
    return `${title}: expected ${low} to ${high} ${unit}; got ${value}.`.replace(" ;", ";");
  return kind === "whole" && !Number.isInteger(value) ? `${title}: expected a whole number; got ${value}.` : null;
}

const same = (a: Typed[string] | undefined, b: Typed[string] | undefined) =>
  (a ?? "") === (b ?? "") || (Array.isArray(a) && Array.isArray(b) && a.join() === b.join());

const empty = (value: Typed[string] | undefined) =>
  value == null || value === "" || (Array.isArray(value) && value.length === 0);
