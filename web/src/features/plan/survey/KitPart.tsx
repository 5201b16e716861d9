import { ApiError, type Schemas } from "@/api/client";
import { Caution } from "@/ui/Caution";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { whole } from "@/ui/words/format";
import { gearOf } from "@/ui/words/gears";
import { Numbers } from "../Numbers";
import { type ChangeParts, type Survey, useKit, useSurveyStep } from "../queries";
import { BathPart } from "./BathPart";
import { TagsPart } from "./TagsPart";

/** The bath with its recipe, which tag for which fish, and the way down for fish from depth. */
export function KitPart({ survey }: { survey: Survey }) {
  const step = useSurveyStep(survey.id);
  const { data: kit, error } = useKit(survey.id);
  const bath = survey.parts.bath!;
  const tags = survey.parts.tags!;
  const refused = step.error instanceof ApiError ? step.error : null;
  const set = (parts: ChangeParts) => step.mutate({ what: "change", body: { parts } });
  return (
    <div>
      {(step.error ?? error) && <ErrorMessage failure={(step.error ?? error)!} />}
      <div className="grid items-start gap-x-8 gap-y-6 lg:grid-cols-2">
        <div>
          <BathPart bath={bath} kit={kit} error={refused} onChange={(change) => set({ bath: change })} />
          <LimitsPart
            limits={survey.parts.limits!}
            shown={kit?.limits}
            error={refused}
            onChange={(limits) => set({ limits })}
          />
        </div>
        <TagsPart tags={tags} kit={kit} error={refused} onChange={(change) => set({ tags: change })} />
      </div>
      {kit?.tags && <Kinds kinds={kit.tags.kinds} />}
      {kit && <Deep survey={survey} deep={kit.deep} />}
      {[survey.gear, ...survey.more_gears].some((gear) => gearOf(gear).effort === "rod_hours") && kit && (
        <Angling survey={survey} rodHours={kit.rod_hours} />
      )}
    </div>
  );
}

/** Bouts and the feeder's timer; rules of the water as text. */
function Angling({ survey, rodHours }: { survey: Survey; rodHours: number }) {
  const step = useSurveyStep(survey.id);
  const angling = survey.parts.angling!;
  const set = (next: Partial<typeof angling>) => step.mutate({ what: "change", body: { parts: { angling: next } } });
  return (
    <section aria-labelledby="angling" className="mt-6 max-w-3xl">
      <h2 id="angling" className="mb-2 text-lg font-semibold">
        Angling
      </h2>
      <Numbers
        specs={[
          { name: "rods", label: "Rods" },
          { name: "bouts", label: "Bouts in each zone" },
          { name: "bout_min", label: "A bout lasts", unit: "min" },
          { name: "feed_first_min", label: "Feed at first every", unit: "min" },
          { name: "feed_first_for_min", label: "for the first", unit: "min" },
          { name: "feed_then_min", label: "then every", unit: "min" },
          { name: "circle_m", label: "within a circle of", unit: "m" },
          { name: "line_kg", label: "Main line breaks at", unit: "kg", optional: true },
          { name: "leader_kg", label: "Leader breaks at", unit: "kg", optional: true },
        ]}
        values={angling}
        error={step.error instanceof ApiError ? step.error : null}
        onChange={set}
      />
      <div className="mt-2">
        <Field
          key={angling.rules}
          label="Licence, season, bag and size rules (shown, not judged: the law decides)"
          defaultValue={angling.rules}
          maxLength={500}
          onBlur={(event) => event.target.value !== angling.rules && set({ rules: event.target.value })}
        />
      </div>
      <p className="mt-2">{rodHours.toFixed(1)} rod-hours in each zone.</p>
    </section>
  );
}

/** What fish in hand may bear, in the programme's own figures. */
function LimitsPart<T extends object>({
  limits,
  shown,
  error,
  onChange,
}: {
  limits: T;
  shown: Schemas["LimitsShown"] | undefined;
  error: ApiError | null;
  onChange: (change: Partial<T>) => void;
}) {
  return (
    <div className="mt-5">
      <h2 className="mb-1 text-lg font-semibold">Fish in hand</h2>
      {shown && (
        <>
          <ul className="list-disc pl-5">
            {shown.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <p className="mt-1">
            The live well holds {shown.well_fish.map(({ fish_g, most }) => `${most} fish of ${fish_g} g`).join(", or ")}
            .
          </p>
        </>
      )}
      <details className="mt-1">
        <summary className="cursor-pointer">Other limits</summary>
        <div className="mt-2">
          <Numbers
            specs={[
              { name: "well_l", label: "Live well", unit: "L" },
              { name: "well_fish", label: "Large fish in it" },
              { name: "well_g_l", label: "Load", unit: "g/L" },
              { name: "well_minutes", label: "Time in it", unit: "min" },
              { name: "well_oxygen_mg_l", label: "Oxygen at least", unit: "mg/L" },
              { name: "well_degrees", label: "Apart from the water", unit: "°C" },
              { name: "air_goal_s", label: "Out of water, goal", unit: "s" },
              { name: "air_warn_s", label: "Out of water, warning", unit: "s" },
              { name: "air_alarm_s", label: "Out of water, alarm", unit: "s" },
              { name: "induction_goal_s", label: "Still in the bath, goal", unit: "s" },
              { name: "induction_warn_s", label: "Still in the bath, warning", unit: "s" },
              { name: "induction_alarm_s", label: "Still in the bath, alarm", unit: "s" },
              { name: "recovery_goal_s", label: "Upright again, goal", unit: "s" },
              { name: "recovery_warn_s", label: "Upright again, warning", unit: "s" },
            ]}
            values={limits}
            error={error}
            onChange={onChange}
          />
        </div>
      </details>
    </div>
  );
}

function Kinds({ kinds }: { kinds: Schemas["TagKindShown"][] }) {
  return (
    <section aria-labelledby="kinds" className="mt-6">
      <h2 id="kinds" className="text-lg font-semibold">
        Kinds side by side
      </h2>
      <table className="mt-1 w-full text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th>Kind</th>
            <th className="pr-4 text-right">Budget buys</th>
            <th className="pr-4 text-right">Fish from</th>
            <th className="pr-4 text-right">Lasts</th>
            <th>For this question</th>
            <th>Limitations</th>
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <tr key={kind.code} className={`border-b border-line align-top ${kind.fits ? "" : "text-muted"}`}>
              <th scope="row" className="py-1 pr-3">
                {kind.name}
              </th>
              <td className="pr-4 text-right">{whole(kind.affordable)}</td>
              <td className="pr-4 text-right whitespace-nowrap">
                {kind.smallest_mm === null ? "any" : `${kind.smallest_mm.toFixed(0)} mm`}
              </td>
              <td className="pr-4 text-right whitespace-nowrap">
                {kind.years >= 50 ? "its life" : `${kind.years} years`}
              </td>
              <td className="pr-3">{kind.fits ? "fits" : kind.against.join(" ")}</td>
              <td>{kind.cannot}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Deep({ survey, deep }: { survey: Survey; deep: Schemas["Deep"] }) {
  const step = useSurveyStep(survey.id);
  const refused = step.error instanceof ApiError ? step.error : null;
  return (
    <details className="mt-6">
      <summary className="cursor-pointer text-lg font-semibold">Fish from deep water: weight and release</summary>
      <div className="mt-2 max-w-2xl">
        <Numbers
          specs={[
            { name: "lets_go_m", label: "Your device lets go at", unit: "m", optional: true },
            { name: "lets_go_second_m", label: "a second at", unit: "m", optional: true },
            { name: "lets_go_third_m", label: "a third at", unit: "m", optional: true },
            { name: "pull_m", label: "One pull of line, as you measured it", unit: "m", optional: true },
          ]}
          values={survey.parts.deep!}
          error={refused}
          onChange={(change) => step.mutate({ what: "change", body: { parts: { deep: change } } })}
        />
      </div>
      <div className="mt-2 grid gap-6 lg:grid-cols-2">
        <table className="w-full text-right">
          <thead className="border-b border-ink text-sm">
            <tr>
              <th>Caught at (m)</th>
              <th>Fish (g)</th>
              <th>Release at (m)</th>
              <th>Weight (g)</th>
              <th>Device at (m)</th>
              <th>Pulls of line</th>
              <th>Gas left too much</th>
            </tr>
          </thead>
          <tbody>
            {deep.rows.map((row) => (
              <tr key={`${row.depth_m} ${row.fish_g}`} className="border-b border-line">
                <td>{row.depth_m}</td>
                <td>{whole(row.fish_g)}</td>
                <td>{row.release_m.toFixed(0)}</td>
                <td>{whole(row.sinker_g)}</td>
                <td>{row.lets_go_m ?? "none"}</td>
                <td>{row.pulls ?? "?"}</td>
                <td>{(100 * row.excess).toFixed(0)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div>
          <p className="pb-1">
            By the protocol: <strong>{deep.ways}</strong>, let go from {whole(100 * deep.share)} % of the depth on.
          </p>
          <ul>
            {deep.devices.map((device) => (
              <li key={device.name} className="border-t border-line py-1">
                <strong>{device.name}</strong>: {device.fits ? "fits" : "does not fit"} a 2 kg fish from 30 m, calm sea
                ({device.reasons.join("; ")})
              </li>
            ))}
          </ul>
          <Caution>
            From deck to going down within 2 minutes, 5 at most. Venting only by trained hands and where law allows.
          </Caution>
        </div>
      </div>
    </details>
  );
}
