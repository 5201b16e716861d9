import { useCallback, useState } from "react";
import { ApiError, type Schemas } from "@/api/client";
import { useProtocol } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Caution } from "@/ui/Caution";
import { axis, Chart } from "@/ui/Chart";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { Numbers } from "../Numbers";
import { type Survey, useSettings, useSurveyStep, useUnits } from "../queries";
import { UnitSheet } from "../UnitSheet";

type Settings = Schemas["Settings"];

/** Volts, amps and watts for today's water, held against the unit; the table for the days when it is another. */
export function SettingsPart({ survey }: { survey: Survey }) {
  const { membership, may } = useHere();
  const [entering, setEntering] = useState(false);
  const step = useSurveyStep(survey.id);
  const { data: units } = useUnits(membership.programme);
  const { data: settings, error } = useSettings(survey.id);
  const electro = survey.parts.electro!;
  const { data: protocol } = useProtocol(survey.programme);
  const ownLimits = [...new Set(protocol?.values.agency_limits?.map(({ name }) => String(name)))];
  const failure = step.error ?? error;
  const readings = units?.readings ?? [];
  const median = units?.r100_ohm ?? undefined;
  return (
    <div className="grid items-start gap-x-6 gap-y-3 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <section aria-label="What is set" className="flex flex-col gap-3">
        <Numbers
          specs={[
            {
              name: "unit",
              label: "Unit",
              wide: true,
              options: (units?.units ?? []).map(({ id, name }) => ({ value: id, label: name })),
            },
            {
              name: "limits",
              label: "Agency's limits",
              wide: true,
              options: [
                { value: "", label: "off" },
                { value: "salmonid-backpack", label: "backpack, protected salmonids" },
                ...ownLimits.map((name) => ({ value: name, label: name })),
              ],
            },
            { name: "conductivity", label: "Conductivity", unit: "µS/cm" },
            {
              name: "read_as",
              label: "read as",
              options: [
                { value: "ambient", label: "ambient" },
                { value: "specific", label: "specific, 25 °C" },
              ],
            },
            { name: "temperature_c", label: "Water", unit: "°C" },
            { name: "goal_w", label: "Power goal", unit: "W" },
            { name: "pulse_hz", label: "Pulse rate", unit: "Hz" },
            { name: "pulse_width_ms", label: "Pulse width", unit: "ms" },
            { name: "anode_radius_cm", label: "Anode radius", unit: "cm" },
          ]}
          values={electro}
          error={failure instanceof ApiError ? failure : null}
          onChange={(next) => step.mutate({ what: "change", body: { parts: { electro: next } } })}
        />
        {failure && <ErrorMessage failure={failure} />}
        {may("plan") && <Button onClick={() => setEntering(true)}>Add unit</Button>}
        {entering && <UnitSheet gear={survey.gear} r100={median} onClose={() => setEntering(false)} />}
        {settings && (
          <p className="text-sm text-muted">
            {settings.unit.name}: {settings.unit.r100_ohm} ohm at 100 µS/cm
            {median !== undefined && `; ${readings.length} past boat runs say ${median.toFixed(0)} ohm (median)`}. Start
            at {settings.advice_hz} Hz: {settings.advice}
          </p>
        )}
      </section>
      {settings && <Shown settings={settings} />}
    </div>
  );
}

function Shown({ settings }: { settings: Settings }) {
  const { goal, unit } = settings;
  return (
    <div className="min-w-0">
      <p className="text-xl leading-snug" data-testid="goal">
        Today at {goal.us_cm.toFixed(0)} µS/cm: <strong>{goal.volts.toFixed(0)} V</strong>, {goal.amps.toFixed(1)} A,{" "}
        {goal.watts.toFixed(0)} W peak ({goal.mean_watts.toFixed(0)} W mean at {(100 * settings.duty).toFixed(0)} %
        duty).
      </p>
      {goal.problems.map((problem) => (
        <p key={problem} className="mt-1 border-l-4 border-signal pl-3 font-semibold text-signal">
          ! {problem}
        </p>
      ))}
      <div className="mt-2 grid gap-x-6 gap-y-3 xl:grid-cols-[minmax(0,1fr)_22rem]">
        <Curves settings={settings} />
        <table className="w-full self-start text-right">
          <thead className="border-b border-ink text-sm">
            <tr>
              <th>µS/cm</th>
              <th>V</th>
              <th>A</th>
              <th>W peak</th>
              <th className="text-left pl-3">The unit</th>
            </tr>
          </thead>
          <tbody>
            {settings.table.map((row) => (
              <tr key={row.us_cm} className={`border-b border-line ${row.today ? "font-semibold" : ""}`}>
                <td className="py-0.5">{row.us_cm.toFixed(0)}</td>
                <td>{row.volts.toFixed(0)}</td>
                <td>{row.amps.toFixed(1)}</td>
                <td>{row.watts.toFixed(0)}</td>
                <td className="pl-3 text-left">
                  {row.problems.length ? <span className="text-signal">! runs out</span> : row.today ? "today" : "can"}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-3 grid gap-6 xl:grid-cols-[minmax(0,1fr)_22rem]">
        <section aria-label="Start-up settings">
          <h2 className="font-semibold">Start-up settings</h2>
          <ol className="mt-1">
            {settings.ramp.map(({ volts, watch }) => (
              <li key={watch} className="flex gap-3 border-t border-line py-1">
                <strong className="w-16 shrink-0 text-right">{volts} V</strong> {watch}
              </li>
            ))}
          </ol>
          <p className="mt-1 text-sm text-muted">
            {unit.name}: at most {unit.max_volts} V, {unit.max_amps} A, {unit.max_watts} W mean.
            {settings.limits && ` ${settings.limits}. ${settings.limits_note}`}
          </p>
          <Caution>{settings.caution}</Caution>
        </section>
        <Rings settings={settings} />
      </div>
    </div>
  );
}

function Curves({ settings }: { settings: Settings }) {
  const { table, unit } = settings;
  const option = useCallback(
    (palette: Palette) => ({
      grid: { left: 62, right: 58, top: 26, bottom: 46 },
      xAxis: axis("Ambient conductivity (µS/cm)", palette, {
        type: "log",
        min: table[0]!.us_cm,
        max: table.at(-1)!.us_cm,
        axisLabel: { color: palette.ink, formatter: (value: number) => value.toFixed(0) },
      }),
      yAxis: [
        axis("Peak volts (V)", palette, {
          type: "value",
          min: 0,
          max: ceiling(
            unit.max_volts,
            table.map(({ volts }) => volts),
          ),
          nameGap: 42,
        }),
        axis("Peak amps (A)", palette, {
          type: "value",
          min: 0,
          max: ceiling(
            unit.max_amps,
            table.map(({ amps }) => amps),
          ),
          nameGap: 36,
          splitLine: { show: false },
        }),
      ],
      tooltip: { trigger: "axis" },
      series: [
        {
          name: "Volts",
          type: "line",
          showSymbol: false,
          data: table.map(({ us_cm, volts }) => [us_cm, volts]),
          lineStyle: { color: palette.ink, width: 2.5 },
          itemStyle: { color: palette.ink },
          markLine: {
            silent: true,
            symbol: "none",
            lineStyle: { color: palette.signal, type: "solid" },
            label: { formatter: `unit ends: ${unit.max_volts} V`, color: palette.signal, position: "insideEndTop" },
            data: [
              { yAxis: unit.max_volts },
              {
                xAxis: settings.goal.us_cm,
                lineStyle: { color: palette.muted, type: "dashed" },
                label: { formatter: "today", color: palette.ink, position: "insideEndTop" },
              },
            ],
          },
        },
        {
          name: "Amps",
          type: "line",
          yAxisIndex: 1,
          showSymbol: false,
          data: table.map(({ us_cm, amps }) => [us_cm, amps]),
          lineStyle: { color: palette.data, width: 2.5, type: "dashed" },
          itemStyle: { color: palette.data },
          markLine: {
            silent: true,
            symbol: "none",
            lineStyle: { color: palette.signal, type: "dashed" },
            label: { formatter: `unit ends: ${unit.max_amps} A`, color: palette.signal, position: "insideStartTop" },
            data: [{ yAxis: unit.max_amps }],
          },
        },
      ],
    }),
    [table, unit, settings],
  );
  return (
    <div>
      <p className="text-sm text-muted">Solid: volts. Dashed: amps. Power into fish stays the same all along.</p>
      <Chart
        label="Volts and amps across this water's conductivities"
        height={290}
        option={option}
        data={{
          columns: ["us_cm", "volts", "amps", "watts"],
          rows: table.map((row) => [row.us_cm, row.volts, row.amps, row.watts]),
        }}
      />
    </div>
  );
}

/** A round end of an axis, a little above the unit's limit or the curve, whichever is higher. */
function ceiling(limit: number, values: number[]): number {
  const most = 1.08 * Math.max(limit, ...values);
  const step = 10 ** Math.floor(Math.log10(most)) / 2;
  return Math.ceil(most / step) * step;
}

/** A teaching picture of the field about one anode. */
function Rings({ settings }: { settings: Settings }) {
  const widest = Math.max(...settings.rings.map(({ cm }) => cm));
  const scale = 92 / widest;
  return (
    <figure>
      <svg viewBox="0 0 370 200" className="w-full" role="img" aria-label="Rings of equal field about the anode">
        {[...settings.rings].reverse().map(({ v_cm, cm }) => (
          <circle key={v_cm} cx={105} cy={100} r={cm * scale} fill="none" stroke="var(--ink)" strokeWidth={1 + v_cm} />
        ))}
        <circle cx={105} cy={100} r={3} fill="var(--signal)" />
        {settings.rings.map(({ v_cm, cm }, place) => (
          <text key={v_cm} x={208} y={58 + place * 26} fontSize="14" fill="var(--ink)">
            {v_cm} V/cm to {cm.toFixed(0)} cm
          </text>
        ))}
      </svg>
      <figcaption className="text-sm text-muted">
        A teaching picture: one round anode alone. Droppers, hull and bottom bend the field.
      </figcaption>
    </figure>
  );
}
