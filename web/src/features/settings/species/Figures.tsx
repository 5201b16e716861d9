import type { ReactNode } from "react";
import { Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";

/** A part of the form, which opens. */
export function Part({ title, open = false, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <details open={open} className="border-t border-line pt-1">
      <summary className="min-h-[44px] cursor-pointer py-2.5 font-semibold">{title}</summary>
      {children}
    </details>
  );
}

/** Whether a part is known at all. */
export function Known({ what, known, onKnown }: { what: string; known: boolean; onKnown: (is: boolean) => void }) {
  return (
    <label className="flex min-h-[44px] items-center gap-2">
      <input type="checkbox" className="size-5" checked={known} onChange={() => onKnown(!known)} />
      there is {what}
    </label>
  );
}

interface FiguresProps<T> {
  part: T;
  names: Record<string, string>;
  at: string;
  optional?: boolean;
  wrong: (field: string) => string | undefined;
  onChange: (part: T) => void;
}

/** Figures of one part, and where they are from. */
export function Figures<T extends { source: string }>({ part, names, at, optional, wrong, onChange }: FiguresProps<T>) {
  return (
    <div className="mt-1 grid grid-cols-3 gap-3">
      {Object.entries(names).map(([name, label]) => (
        <NumberField
          key={name}
          live
          optional={optional}
          label={label}
          value={part[name as keyof T] as number | null}
          error={wrong(`${at}.${name}`)}
          onNumber={(number) => onChange({ ...part, [name]: number })}
        />
      ))}
      <div className="col-span-3">
        <Field
          label="Source"
          value={part.source}
          maxLength={200}
          error={wrong(`${at}.source`)}
          onChange={(event) => onChange({ ...part, source: event.target.value })}
        />
      </div>
    </div>
  );
}
