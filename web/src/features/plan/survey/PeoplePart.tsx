import { useState } from "react";
import { usePlan } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { formatDay } from "@/ui/words/format";
import type { ChangeParts, Survey } from "../queries";

/** Who goes, with what their certificates say. */
export function Crew({ survey, onChange }: { survey: Survey; onChange: (crew: string[]) => void }) {
  const { membership, may } = useHere();
  const { data: plan } = usePlan(membership.programme);
  const [name, setName] = useState("");
  const crew = survey.parts.crew ?? [];
  const add = () => {
    const fresh = name.trim();
    if (fresh && !crew.includes(fresh)) onChange([...crew, fresh]);
    setName("");
  };
  return (
    <div>
      <h2 className="text-lg font-semibold">Crew</h2>
      <ul className="mt-1">
        {crew.map((each) => {
          const certificates = plan?.permits.filter(({ holder }) => holder === each) ?? [];
          return (
            <li key={each} className="flex items-center gap-3 border-t border-line py-1">
              <span className="font-semibold">{each}</span>
              <span className="text-sm text-muted">
                {certificates
                  .map(
                    ({ name, last, state }) => `${name} to ${formatDay(last)}${state === "valid" ? "" : ` (${state})`}`,
                  )
                  .join("; ") || "no certificate added"}
              </span>
              {may("plan") && (
                <Button className="ml-auto" onClick={() => onChange(crew.filter((other) => other !== each))}>
                  Remove
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {may("plan") && (
        <form
          className="mt-2 flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <div className="grow">
            <Field label="Name" list="people" value={name} onChange={(event) => setName(event.target.value)} />
            <datalist id="people">
              {plan?.people.map((each) => (
                <option key={each} value={each} />
              ))}
            </datalist>
          </div>
          <Button large type="submit">
            Add
          </Button>
        </form>
      )}
    </div>
  );
}

type Station = NonNullable<ChangeParts["stations"]>[number];

/** Where somebody of a crew stands, in the plan's order. */
const STATIONS = [
  { value: "leader", label: "leader" },
  { value: "pedal", label: "dead-man switch" },
  { value: "netter", label: "dip net" },
  { value: "lookout", label: "look-out" },
  { value: "driver", label: "helm" },
  { value: "measurer", label: "measuring" },
  { value: "recorder", label: "recording" },
  { value: "tagger", label: "tagging" },
  { value: "shore", label: "ashore, knows when we are back" },
] as const;

/** Who of the crew stands where. */
export function Stations({ survey, onChange }: { survey: Survey; onChange: (stations: Station[]) => void }) {
  const { may } = useHere();
  const stations = survey.parts.stations ?? [];
  const crew = survey.parts.crew ?? [];
  const [person, setPerson] = useState("");
  const [station, setStation] = useState<Station["station"]>("pedal");
  const chosen = person || crew[0] || "";
  const there = stations.some((each) => each.person === chosen && each.station === station);
  if (!crew.length && !stations.length) return null;
  return (
    <section aria-label="Stations">
      <h2 className="text-lg font-semibold">Stations</h2>
      <ul className="mt-1">
        {stations.map((each) => (
          <li key={`${each.person} ${each.station}`} className="flex items-center gap-3 border-t border-line py-1">
            <span className="w-40 text-muted">{STATIONS.find(({ value }) => value === each.station)?.label}</span>
            <span className="font-semibold">{each.person}</span>
            {may("plan") && (
              <Button className="ml-auto" onClick={() => onChange(stations.filter((other) => other !== each))}>
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may("plan") && crew.length > 0 && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Choice label="Person" value={chosen} onChange={(event) => setPerson(event.target.value)}>
            {crew.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </Choice>
          <Choice
            label="Station"
            value={station}
            onChange={(event) => setStation(event.target.value as Station["station"])}
          >
            {STATIONS.map(({ value, label }) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </Choice>
          <Button large disabled={there} onClick={() => onChange([...stations, { person: chosen, station }])}>
            Add station
          </Button>
        </div>
      )}
    </section>
  );
}

const PARTNERS = [
  ["client", "Client (who asked for the survey)", 120],
  ["reference", "Contract or project number", 80],
  ["partners", "Partners and landowners", 300],
] as const;

/** For whom it is done, and with whom. */
export function Partners({
  survey,
  onChange,
}: {
  survey: Survey;
  onChange: (partners: NonNullable<ChangeParts["partners"]>) => void;
}) {
  const { may } = useHere();
  const partners = survey.parts.partners ?? {};
  return (
    <section aria-label="Client and partners" className="grid gap-2">
      <h2 className="text-lg font-semibold">Client and partners</h2>
      {PARTNERS.map(([name, label, longest]) => (
        <Field
          key={`${name} ${partners[name]}`}
          label={label}
          maxLength={longest}
          readOnly={!may("plan")}
          defaultValue={partners[name] ?? ""}
          onBlur={(event) => event.target.value !== (partners[name] ?? "") && onChange({ [name]: event.target.value })}
        />
      ))}
    </section>
  );
}
