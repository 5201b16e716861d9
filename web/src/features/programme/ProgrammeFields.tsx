import type { Schemas } from "@/api/client";
import { Choice, Field } from "@/ui/Field";
import { DAY_LANGUAGES } from "@/ui/words/day-language";

export type ProgrammeValues = Required<Schemas["ProgrammeRequest"]>;

/** Every zone that this browser knows; the server has the last word. */
const ZONES = Intl.supportedValuesOf("timeZone");

export const newProgramme = (): ProgrammeValues => ({
  name: "",
  time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  length_unit: "mm",
  mass_unit: "g",
  date_language: "en-GB",
  currency: "",
  licence: "",
  citation: "",
});

interface Props {
  values: ProgrammeValues;
  onChange: (values: ProgrammeValues) => void;
  /** What is wrong with one of them. */
  errors?: Record<string, string | undefined>;
  disabled?: boolean;
}

/** What a programme decides once: its name, zone, units and language of dates. */
export function ProgrammeFields({ values, onChange, errors = {}, disabled }: Props) {
  const set = (name: keyof ProgrammeValues) => (event: { target: { value: string } }) =>
    onChange({ ...values, [name]: event.target.value });
  return (
    <fieldset disabled={disabled} className="grid grid-cols-2 gap-3">
      <div className="col-span-2">
        <Field
          label="Name of the programme"
          hint="One study with its people, waters and fish, such as Tarn study."
          value={values.name}
          maxLength={120}
          required
          error={errors.name}
          onChange={set("name")}
        />
      </div>
      <div className="col-span-2">
        <Field
          label="Time zone of its waters"
          list="zones"
          hint="Times are kept in UTC and shown in this zone."
          value={values.time_zone}
          required
          error={errors.time_zone}
          onChange={set("time_zone")}
        />
        <datalist id="zones">
          {ZONES.map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
      </div>
      <Choice label="Length unit" value={values.length_unit} onChange={set("length_unit")}>
        <option value="mm">mm</option>
        <option value="cm">cm</option>
        <option value="in">inches</option>
      </Choice>
      <Choice label="Weight unit" value={values.mass_unit} onChange={set("mass_unit")}>
        <option value="g">g</option>
        <option value="kg">kg</option>
        <option value="lb">pounds</option>
        <option value="oz">ounces</option>
      </Choice>
      <Choice label="Dates are written in" value={values.date_language} onChange={set("date_language")}>
        {Object.entries(DAY_LANGUAGES).map(([code, label]) => (
          <option key={code} value={code}>
            {label}
          </option>
        ))}
      </Choice>
    </fieldset>
  );
}
