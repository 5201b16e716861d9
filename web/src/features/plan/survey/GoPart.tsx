import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { ApiError } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { DoneOf } from "@/ui/DoneOf";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { formatDay, plural, targetWords } from "@/ui/words/format";
import { gearOf } from "@/ui/words/gears";
import { type ChangeParts, type Survey, useSurveyStep } from "../queries";
import { Crew, Partners, Stations } from "./PeoplePart";
import { Shifts } from "./Shifts";

/** Who goes, whether they may, the sheet, and the outing; then planned against done. */
export function GoPart({ survey }: { survey: Survey }) {
  const { may } = useHere();
  const step = useSurveyStep(survey.id);
  const [day, setDay] = useState(survey.first);
  const [override, setOverride] = useState("");
  const incomplete = step.error instanceof ApiError && step.error.code === "plan_incomplete" ? step.error : null;
  const set = (parts: ChangeParts) => step.mutate({ what: "change", body: { parts } });
  // one key until it is made: a double touch makes one outing
  const [key, setKey] = useState(() => uuidv7());
  const go = async () => {
    const body = { id: key, date: day, override };
    const done = await step.mutateAsync({ what: "outing", body }).catch(() => null);
    if (!done) return;
    setKey(uuidv7());
    notify("The outing is open; Deck knows its sites and targets.");
  };
  return (
    <div className="grid items-start gap-x-8 gap-y-5 lg:grid-cols-2">
      <section aria-label="People and safety" className="flex flex-col gap-4">
        <Crew
          survey={survey}
          onChange={(crew) => {
            const stations = survey.parts.stations ?? [];
            const theirs = stations.filter(({ person }) => crew.includes(person ?? ""));
            // who does not go stands nowhere
            set(theirs.length < stations.length ? { crew, stations: theirs } : { crew });
          }}
        />
        <Stations survey={survey} onChange={(stations) => set({ stations })} />
        <Partners survey={survey} onChange={(partners) => set({ partners })} />
        <Emergency survey={survey} onChange={(emergency) => set({ emergency })} />
        <Checklists survey={survey} onChange={(checklists) => set({ checklists })} />
        <TakenAlong kit={survey.kit} />
        <ToTakeAlong survey={survey.id} />
      </section>
      <section aria-label="Going out" className="flex flex-col gap-3">
        <h2 className="text-lg font-semibold">Going out</h2>
        <ul className="flex flex-wrap gap-x-4 text-sm">
          {survey.days.map((each) => (
            <li key={`${each.first} ${each.words}`} className={each.what === "closed" ? "text-signal" : "text-muted"}>
              {formatDay(each.first)}
              {each.last !== each.first && ` to ${formatDay(each.last)}`}: {each.words}
            </li>
          ))}
        </ul>
        {may("plan") && <Shifts survey={survey} refused={step.error} onChange={(shifts) => set({ shifts })} />}
        {survey.against.map((each) => (
          <p key={each} className="border-l-4 border-signal pl-3">
            ! {each}
          </p>
        ))}
        {may("open_planned") && (
          <div className="flex flex-wrap items-end gap-3">
            <DayField label="Day of the outing" value={day} onDay={setDay} />
            <Button large look="ink" onClick={go} disabled={step.isPending}>
              Make the outing
            </Button>
          </div>
        )}
        {may("open_planned") && !survey.sites.length && (
          <p>
            No sites are laid out (
            <Link
              to="/plan/$survey"
              params={{ survey: survey.id }}
              search={{ part: "sites" }}
              className="underline underline-offset-4"
            >
              Reach and sites
            </Link>
            ): the Deck offers those of the water.
          </p>
        )}
        {incomplete && (
          <Field
            label="Reason to go out anyway (recorded)"
            value={override}
            maxLength={200}
            onChange={(event) => setOverride(event.target.value)}
          />
        )}
        {step.error && <ErrorMessage failure={step.error} />}
        <Done survey={survey} />
      </section>
    </div>
  );
}

interface ChecklistsProps {
  survey: Survey;
  onChange: (checklists: NonNullable<ChangeParts["checklists"]>) => void;
}

/** Those that gear and place ask for, and others that may be chosen. */
function Checklists({ survey, onChange }: ChecklistsProps) {
  const { may } = useHere();
  const chosen = survey.parts.checklists ?? [];
  return (
    <div>
      <h2 className="text-lg font-semibold">Checklists for each outing</h2>
      <ul className="mt-1 flex flex-wrap items-center gap-x-4">
        {survey.checklists.map(({ code, title, version }) => (
          <li key={code}>
            {title} <span className="text-sm text-muted">version {version}</span>
          </li>
        ))}
        {survey.more_checklists.map(({ code, title }) => (
          <li key={code}>
            <label className="flex min-h-[44px] items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                disabled={!may("plan")}
                checked={chosen.includes(code)}
                onChange={() =>
                  onChange(chosen.includes(code) ? chosen.filter((each) => each !== code) : [...chosen, code])
                }
              />
              {title}
            </label>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What the protocol wants aboard. */
function TakenAlong({ kit }: { kit: Survey["kit"] }) {
  if (!kit.length) return null;
  return (
    <div>
      <h2 className="text-lg font-semibold">Equipment</h2>
      <ul className="mt-1 flex flex-wrap gap-x-5">
        {kit.map(({ item, n, when }) => (
          <li key={`${when} ${item}`}>
            {n ? `${n} ` : ""}
            {item}
            {when && when !== "always" && <span className="text-sm text-muted"> ({when})</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}

const FILES = [
  { file: "sheet.pdf?paper=a4", words: "Field sheet (PDF, A4)" },
  { file: "sheet.pdf?paper=letter", words: "Field sheet (PDF, letter)" },
  { file: "survey.ics", words: "Calendar (iCalendar)" },
  { file: "sites.gpx", words: "Sites (GPX)" },
];

/** The plan on paper, in a calendar and on the boat's plotter. */
function ToTakeAlong({ survey }: { survey: string }) {
  return (
    <p className="flex flex-wrap gap-x-5 gap-y-1">
      {FILES.map(({ file, words }) => (
        <a key={file} className="underline underline-offset-4" href={`/api/v1/surveys/${survey}/${file}`} download>
          {words}
        </a>
      ))}
    </p>
  );
}

function Emergency({
  survey,
  onChange,
}: {
  survey: Survey;
  onChange: (emergency: NonNullable<ChangeParts["emergency"]>) => void;
}) {
  const emergency = survey.parts.emergency ?? {};
  const field = (name: "position" | "access" | "numbers", label: string) => (
    <Field
      key={`${name} ${emergency[name]}`}
      label={label}
      defaultValue={emergency[name] ?? ""}
      onBlur={(event) => event.target.value !== emergency[name] && onChange({ [name]: event.target.value })}
    />
  );
  return (
    <div className="grid gap-2">
      <h2 className="text-lg font-semibold">If something happens</h2>
      {field("position", "Position")}
      {field("access", "How help gets there")}
      {field("numbers", "Numbers to call")}
    </div>
  );
}

/** Planned against done, and the checklists of each outing. */
function Done({ survey }: { survey: Survey }) {
  const { progress } = survey;
  if (!progress.outings.length) return null;
  const fished = gearOf(survey.gear).electric ? "Current on (min)" : "Fishing (min)";
  return (
    <div>
      <h2 className="text-lg font-semibold">Planned and done</h2>
      <ul className="mt-1 grid grid-cols-2 gap-x-6">
        <DoneOf label="Site visits" done={progress.sites_done} wanted={progress.sites_planned} />
        <DoneOf
          label={fished}
          done={Math.round(progress.effort_done_s / 60)}
          wanted={Math.round(progress.effort_planned_s / 60)}
        />
        {progress.targets.map((target) => (
          <DoneOf
            key={target.species + target.what + target.zone + target.month}
            label={targetWords(target.species, { ...target, place: target.zone })}
            done={target.done}
            wanted={target.wanted}
          />
        ))}
      </ul>
      {progress.weeks.length > 0 && (
        <table className="mt-2 w-full text-right text-sm">
          <thead>
            <tr className="border-b border-ink">
              <th className="text-left">Week of</th>
              <th>Sites</th>
              <th>{fished}</th>
              <th>Measured</th>
              <th>Marks</th>
            </tr>
          </thead>
          <tbody>
            {progress.weeks.map((week) => (
              <tr key={week.week} className="border-b border-line">
                <td className="text-left">{formatDay(week.week)}</td>
                <td>{week.sites}</td>
                <td>{Math.round(week.effort_s / 60)}</td>
                <td>{week.fish}</td>
                <td>{week.marks}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <ul className="mt-2">
        {progress.outings.map((outing) => (
          <li key={outing.id} className="flex flex-wrap items-center gap-3 border-t border-line py-1.5">
            <Link to="/deck/$outing" params={{ outing: outing.id }} className="underline underline-offset-4">
              {outing.name}
            </Link>
            {outing.unsigned ? (
              <span className="text-signal">! {plural(outing.unsigned, "checklist")} to sign on the Deck</span>
            ) : (
              <span>no checklist left to sign</span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
