import { Choice, Field } from "@/ui/Field";
import type { CardRow } from "./cards";

export type MoreRow = Pick<
  CardRow,
  "place_text" | "hook_kind" | "hook_site" | "line_kg" | "air_s" | "bleeding_landed" | "bleeding_released" | "remarks"
>;

interface Props {
  values: MoreRow;
  onChange: (part: MoreRow) => void;
}

const HOOK_KINDS = { single: "Single", treble: "Treble", circle: "Circle", jig: "Jig" };
const HOOK_SITES = {
  lip: "Lip",
  mouth: "Inside the mouth",
  gill: "Gill",
  eye: "Eye",
  gut: "Swallowed",
  outside: "Outside the mouth",
};
const BLEEDING = { none: "None", little: "A little", much: "Much" };

/** What can wait until the fish swims: place in words, hook, tackle, bleeding, air. */
export function MoreOfCard({ values, onChange }: Props) {
  const number = (text: string) =>
    text.trim() && Number.isFinite(Number(text.replace(",", "."))) ? Number(text.replace(",", ".")) : null;
  return (
    <details className="mt-3 border-y border-line py-1">
      <summary className="min-h-[44px] cursor-pointer py-2.5 font-semibold">Place, hook, bleeding, remarks</summary>
      <div className="grid gap-2 pb-2">
        <Field
          label="Place in words"
          maxLength={200}
          value={values.place_text ?? ""}
          onChange={({ target }) => onChange({ place_text: target.value })}
        />
        <div className="grid grid-cols-2 gap-2">
          <Words
            label="Hook"
            words={HOOK_KINDS}
            value={values.hook_kind}
            onChange={(hook_kind) => onChange({ hook_kind })}
          />
          <Words
            label="Hooked in"
            words={HOOK_SITES}
            value={values.hook_site}
            onChange={(hook_site) => onChange({ hook_site })}
          />
          <Words
            label="Bleeding at landing"
            words={BLEEDING}
            value={values.bleeding_landed}
            onChange={(bleeding_landed) => onChange({ bleeding_landed })}
          />
          <Words
            label="Bleeding at release"
            words={BLEEDING}
            value={values.bleeding_released}
            onChange={(bleeding_released) => onChange({ bleeding_released })}
          />
          <Field
            label="Line strength"
            unit="kg"
            inputMode="decimal"
            defaultValue={values.line_kg ?? ""}
            onChange={({ target }) => onChange({ line_kg: number(target.value) })}
          />
          <Field
            label="Out of the water"
            unit="s"
            inputMode="numeric"
            defaultValue={values.air_s ?? ""}
            onChange={({ target }) => onChange({ air_s: number(target.value) })}
          />
        </div>
        <Field
          label="Remarks"
          maxLength={1000}
          value={values.remarks ?? ""}
          onChange={({ target }) => onChange({ remarks: target.value })}
        />
      </div>
    </details>
  );
}

interface WordsProps<T extends string> {
  label: string;
  words: Record<T, string>;
  value: T | "" | undefined;
  onChange: (value: T | "") => void;
}

function Words<T extends string>({ label, words, value, onChange }: WordsProps<T>) {
  return (
    <Choice label={label} value={value ?? ""} onChange={({ target }) => onChange(target.value as T | "")}>
      <option value="">Not noted</option>
      {(Object.entries(words) as [T, string][]).map(([code, text]) => (
        <option key={code} value={code}>
          {text}
        </option>
      ))}
    </Choice>
  );
}
