import type { Schemas } from "@/api/client";
import { Choices } from "@/ui/Choices";
import { Choice, Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import { missing, setFixed, setMissing } from "./answers";
import type { Answers, FileRow } from "./queries";

interface Props {
  row: FileRow;
  kinds: Schemas["ColumnKind"][];
  answers: Answers;
  onChange: (answers: Answers) => void;
}

const LABELS: Record<string, string> = {
  species: "Species",
  date: "Day",
  water: "Water",
  site: "Site",
  gear: "Gear",
};

/** What is the same for every line: whatever no column brings, the order in dates, the sign before decimals. */
export function WholeFile({ row, kinds, answers, onChange }: Props) {
  const lacking = missing(answers);
  const slashed = row.preview.columns[answers.columns.findIndex(({ key }) => key === "date")]?.slashed;
  const shortYear = row.preview.columns[answers.columns.findIndex(({ key }) => key === "date")]?.short_year;
  const thisYear = new Date().getFullYear();
  const windows = [thisYear, 1999].map((until) => ({ value: String(until), label: `${until - 99} to ${until}` }));
  const comma = answers.columns.some(({ key }) => key === "length" || key === "mass");
  return (
    <div className="flex flex-col gap-2.5">
      {lacking.length > 0 && (
        <p className="text-sm text-muted">No column brings these, so say them for the whole file:</p>
      )}
      {lacking.map((key) => {
        const options = Object.entries(kinds.find((kind) => kind.key === key)?.choices ?? {});
        const value = answers.fixed?.[key] ?? "";
        const set = (next: string) => onChange(setFixed(answers, key, next));
        return options.length ? (
          <Choice key={key} label={LABELS[key]!} value={value} onChange={(event) => set(event.target.value)}>
            <option value="">which?</option>
            {options.map(([code, label]) => (
              <option key={code} value={code}>
                {label.replaceAll("_", " ")}
              </option>
            ))}
          </Choice>
        ) : (
          <Field
            key={key}
            label={LABELS[key]!}
            type={key === "date" ? "date" : "text"}
            value={value}
            onChange={(event) => set(event.target.value)}
          />
        );
      })}
      {slashed && (
        <div>
          <Choices
            label={`Dates such as ${slashed} are`}
            options={[
              { value: "day", label: "day first" },
              { value: "month", label: "month first" },
            ]}
            chosen={answers.date_order ?? ""}
            onChoose={(date_order) => onChange({ ...answers, date_order: date_order as "day" | "month" })}
          />
          {!answers.date_order && (
            <p className="text-sm text-signal">! They can be read either way, so it is not guessed. Say which.</p>
          )}
        </div>
      )}
      {shortYear && (
        <div>
          <Choices
            label={`Years such as that of ${shortYear} are`}
            options={windows}
            chosen={answers.years_until ? String(answers.years_until) : ""}
            onChoose={(until) => onChange({ ...answers, years_until: Number(until) })}
          />
          {!answers.years_until && (
            <p className="text-sm text-signal">! Years have two digits. Choose their century.</p>
          )}
        </div>
      )}
      {comma && (
        <Choices
          label="Decimals are written with a"
          options={[
            { value: ".", label: "point" },
            { value: ",", label: "comma" },
          ]}
          chosen={answers.decimal ?? ""}
          onChoose={(decimal) => onChange({ ...answers, decimal: decimal as "." | "," })}
        />
      )}
      <Field
        label="Further words that mean no value"
        hint="Separated by commas. Dashes, n/a, k.A. and the like are known."
        defaultValue={(answers.missing ?? []).join(", ")}
        key={(answers.missing ?? []).join(",")}
        onBlur={({ target }) => onChange(setMissing(answers, target.value.split(",")))}
      />
      <Tick
        label="Make sites that are not known yet"
        checked={answers.new_sites ?? true}
        onChange={(new_sites) => onChange({ ...answers, new_sites })}
      />
      {answers.columns.some(({ key }) => key === "pit" || key === "tbar" || key === "mark_read") && (
        <Tick
          label="Make a marked fish of each number that nobody carries yet"
          checked={answers.new_marks ?? true}
          onChange={(new_marks) => onChange({ ...answers, new_marks })}
        />
      )}
    </div>
  );
}
