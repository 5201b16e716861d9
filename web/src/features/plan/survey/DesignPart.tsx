import { useState } from "react";
import { ApiError } from "@/api/client";
import { usePlan } from "@/features/programme";
import { useSelectionOptions } from "@/features/selection";
import { useReach } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { ManyOf } from "@/ui/ManyOf";
import { ErrorMessage } from "@/ui/Message";
import { NumberField } from "@/ui/NumberField";
import { formatDay, MONTH_CHOICES, targetWords } from "@/ui/words/format";
import { gearOf } from "@/ui/words/gears";
import { Numbers } from "../Numbers";
import { type Survey, useSurveyStep } from "../queries";

/** The question, when and how often, the effort, and what it is to bring. */
export function DesignPart({ survey }: { survey: Survey }) {
  const step = useSurveyStep(survey.id);
  const { data: plan } = usePlan(survey.programme);
  const refused = step.error instanceof ApiError ? step.error : null;
  const { question, visits, effort_s, revisit_years, first, last } = survey;
  const { data: options } = useSelectionOptions(survey.programme);
  const { electric } = gearOf(survey.gear);
  const change = (body: object) => step.mutate({ what: "change", body });
  return (
    <div className="grid items-start gap-x-8 gap-y-5 lg:grid-cols-2">
      <section aria-label="Design" className="flex flex-col gap-3">
        <div className="grid grid-cols-2 gap-3">
          <Field
            key={survey.name}
            label="Name"
            defaultValue={survey.name}
            maxLength={120}
            onBlur={({ target }) =>
              target.value.trim() && target.value !== survey.name && change({ name: target.value })
            }
          />
          <Choice label="Gear" value={survey.gear} onChange={(event) => change({ gear: event.target.value })}>
            {options?.gears.map(({ code, label }) => (
              <option key={code} value={code}>
                {label}
              </option>
            ))}
          </Choice>
        </div>
        <ManyOf
          label="Also used"
          none="no others"
          items={options?.gears.map(({ code, label }) => ({ value: code, label })) ?? []}
          chosen={survey.more_gears}
          onChange={(more_gears) => change({ more_gears })}
        />
        <ManyOf
          label="Species"
          items={options?.species.map(({ code, name }) => ({ value: code, label: name })) ?? []}
          chosen={survey.species}
          onChange={(species) => species.length && change({ species })}
        />
        <Numbers
          specs={[
            { name: "question", label: "Question", options: plan?.questions ?? [], wide: true },
            { name: "visits", label: "Visits" },
            { name: "effort_s", label: electric ? "Current on, each site" : "Fishing, each site", unit: "s" },
            { name: "revisit_years", label: "Again every", unit: "years", optional: true },
          ]}
          values={{ question, visits, effort_s, revisit_years }}
          error={refused}
          onChange={change}
        />
        <div className="grid grid-cols-2 gap-3">
          <DayField label="First day" value={first} onDay={(day) => day && change({ first: day })} />
          <DayField label="Last day" value={last} onDay={(day) => day && change({ last: day })} />
        </div>
        {step.error && <ErrorMessage failure={step.error} />}
        <p className="text-lg">
          {survey.sites.length} sites × {visits} visits × {(effort_s / 60).toFixed(0)} min:{" "}
          {(survey.progress.effort_planned_s / 3600).toFixed(1)} h of {electric ? "current on" : "fishing"} in all.
        </p>
      </section>
      <div>
        <Targets survey={survey} onChange={(targets) => change({ parts: { targets } })} />
        <h2 className="mt-6 text-lg font-semibold">Days</h2>
        <ul>
          {survey.days.map((each) => (
            <li
              key={`${each.first} ${each.words}`}
              className={`flex gap-4 border-t border-line py-1 ${each.what === "closed" ? "text-signal" : ""}`}
            >
              <span className="w-60 shrink-0">
                {formatDay(each.first)}
                {each.last !== each.first && ` to ${formatDay(each.last)}`}
              </span>
              {each.what === "closed" && "! "}
              {each.words}
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

const EMPTY = {
  species: "",
  what: "measured",
  wanted: null as number | null,
  from: null as number | null,
  zone: "",
  month: "",
};

type Target = NonNullable<Survey["parts"]["targets"]>[number];

function Targets({ survey, onChange }: { survey: Survey; onChange: (targets: Target[]) => void }) {
  const { may } = useHere();
  const { data: reach } = useReach(survey.water);
  const targets = survey.parts.targets ?? [];
  const [fresh, setFresh] = useState({ ...EMPTY, species: survey.species[0] ?? "" });
  const set = (part: Partial<typeof fresh>) => setFresh({ ...fresh, ...part });
  const add = () => {
    const { species, what, wanted, from, zone, month } = fresh;
    onChange([
      ...targets,
      {
        species,
        what: what as Target["what"],
        wanted: wanted ?? 0,
        from_mm: from,
        zone,
        month: month ? Number(month) : null,
      },
    ]);
    set({ wanted: null, from: null });
  };
  return (
    <section aria-label="Targets">
      <h2 className="text-lg font-semibold">Targets of the whole survey</h2>
      <ul>
        {survey.progress.targets.map((target, place) => (
          <li
            key={`${target.species} ${target.what} ${target.wanted} ${target.zone} ${target.month}`}
            className="flex items-center gap-3 border-t border-line py-1.5"
          >
            {target.wanted} {targetWords(target.species, { ...target, place: target.zone })}
            <span className="text-sm text-muted">
              {target.per_visit} a visit{target.month ? " of that month" : ""}
            </span>
            {may("plan") && (
              <Button className="ml-auto" onClick={() => onChange(targets.filter((_, at) => at !== place))}>
                Delete
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may("plan") && (
        <div className="mt-2 grid grid-cols-4 items-end gap-2">
          <Choice label="Species" value={fresh.species} onChange={(event) => set({ species: event.target.value })}>
            {survey.species.map((code) => (
              <option key={code}>{code}</option>
            ))}
          </Choice>
          <Choice label="to be" value={fresh.what} onChange={(event) => set({ what: event.target.value })}>
            <option>measured</option>
            <option>marked</option>
          </Choice>
          <NumberField live label="How many" optional value={fresh.wanted} onNumber={(wanted) => set({ wanted })} />
          <NumberField live label="From" unit="mm" optional value={fresh.from} onNumber={(from) => set({ from })} />
          <div className="col-span-2">
            <Choice label="In the zone" value={fresh.zone} onChange={(event) => set({ zone: event.target.value })}>
              <option value="">any</option>
              {reach?.zones
                .filter(({ kind }) => kind === "zone")
                .map(({ name }) => (
                  <option key={name}>{name}</option>
                ))}
            </Choice>
          </div>
          <Choice label="In the month" value={fresh.month} onChange={(event) => set({ month: event.target.value })}>
            <option value="">any</option>
            {MONTH_CHOICES.map(({ value, label }) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </Choice>
          <Button large disabled={!fresh.wanted} onClick={add}>
            Add
          </Button>
        </div>
      )}
    </section>
  );
}
