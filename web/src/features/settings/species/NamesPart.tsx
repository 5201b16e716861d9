import { Field } from "@/ui/Field";
import type { PartProps } from "./values";

/** What it is called. */
export function NamesPart({
  code,
  newCode,
  onNewCode,
  values,
  set,
  wrong,
}: Omit<PartProps, "field"> & { code: string; newCode: string; onNewCode: (code: string) => void }) {
  return (
    <div className="grid grid-cols-2 gap-3">
      {!code && (
        <Field
          label="Code it is called by"
          hint="2 to 8 small letters"
          value={newCode}
          required
          maxLength={8}
          error={wrong("code")}
          onChange={(event) => onNewCode(event.target.value)}
        />
      )}
      <Field
        label="Name"
        value={values.common_name}
        required
        maxLength={60}
        error={wrong("common_name")}
        onChange={(event) => set({ common_name: event.target.value })}
      />
      <Field
        label="Scientific name"
        value={values.scientific_name}
        maxLength={80}
        onChange={(event) => set({ scientific_name: event.target.value })}
      />
      <Field
        label="Other names"
        hint="With commas between"
        value={values.words.join(", ")}
        error={wrong("words")}
        onChange={(event) => set({ words: event.target.value.split(",").map((word) => word.trimStart()) })}
        onBlur={() => set({ words: values.words.map((word) => word.trim()).filter(Boolean) })}
      />
    </div>
  );
}
