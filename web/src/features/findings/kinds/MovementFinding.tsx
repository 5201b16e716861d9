import { Link } from "@tanstack/react-router";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { formatInterval, MONTH_CHOICES, plural, whole } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["MovementFinding"];
type Journey = Finding["journeys"][number];

const BY = [
  { value: "time", label: "Time at liberty" },
  { value: "zone", label: "Zone of release" },
  { value: "season", label: "Season of release" },
  { value: "size", label: "Size at release" },
  { value: "sex", label: "Sex" },
  { value: "tag", label: "Tags" },
];
const WITHIN_M = [500, 1000, 2000, 5000, 10000];
const DAYS = [0, 1, 7, 30, 90, 365];

/** Movement of marked fish: how many stay, how far in what time, at what time of the year, from zone to zone. */
function MovementFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="movement" selection={selection} words="Following the fish...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  const ask = (part: Partial<Pick<Finding, "by" | "within_m" | "days">>) => {
    const { by, within_m, days } = { ...finding, ...part };
    onChange({ ask: [`by:${by}`, `within_m:${within_m}`, `days:${days}`] });
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        <Choices
          label="Stayed within"
          options={WITHIN_M.map((m) => ({ value: `${m}`, label: m < 1000 ? `${m} m` : `${m / 1000} km` }))}
          chosen={`${finding.within_m}`}
          onChoose={(m) => ask({ within_m: Number(m) })}
        />
        <Choices
          label="Met again after"
          options={DAYS.map((days) => ({ value: `${days}`, label: plural(days, "day", "days") }))}
          chosen={`${finding.days}`}
          onChoose={(days) => ask({ days: Number(days) })}
        />
        <Choices
          label="Compare by"
          options={BY}
          chosen={finding.by}
          onChoose={(by) => ask({ by: by as Finding["by"] })}
        />
      </div>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 lg:grid-cols-2">
        <Picture title="Distance and time" note="rings: within the error of both places; 0.1 km: or less">
          <Distances finding={finding} />
        </Picture>
        <Picture title="Place through the year" note="where fish were met, by the day of the year">
          <Season finding={finding} />
        </Picture>
        <Groups finding={finding} />
        <div className="flex flex-col gap-2">
          <EstimateTable
            caption="Direction and scale"
            what="Quantity"
            rows={[...finding.directions, finding.homing, finding.scale?.scale ?? null].filter((each) => each !== null)}
            digits={1}
          />
          {finding.scale ? (
            <p className="text-sm text-muted">
              Mean distance along {finding.scale.water}, corrected for effort; {finding.scale.unadjusted.toFixed(1)} km
              as if effort had been alike wherever anybody fished. {finding.scale.unseen.toFixed(0)} % of it lies where
              nobody fished.
            </p>
          ) : (
            <p className="text-sm text-muted">No scale: {finding.no_scale}</p>
          )}
        </div>
      </div>
      <div className="mt-4">
        <Picture
          title="The river as a strip"
          note="a line from where and when a fish was let go to where it was met next; journeys along one water"
        >
          <Strip finding={finding} />
        </Picture>
      </div>
      <div className="mt-4 grid gap-x-8 gap-y-4 xl:grid-cols-2">
        {finding.matrix && <Matrix matrix={finding.matrix} />}
        <Longest finding={finding} />
      </div>
      <Footing finding={finding} selection={selection} kind="movement" ofCaptures={false} />
    </>
  );
}

function Groups({ finding }: { finding: Finding }) {
  const by = BY.find(({ value }) => value === finding.by)?.label ?? "";
  return (
    <table className="h-fit w-full text-left">
      <caption className="pb-1 text-left font-semibold">Stayed, by {by.toLowerCase()}</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>{by}</th>
          <th className="text-right">Stayed (%), 95 % interval</th>
          <th className="pl-3 text-right">Journeys</th>
          <th className="pl-3 text-right">Fish</th>
        </tr>
      </thead>
      <tbody>
        {[...finding.groups, finding.all].map(({ name, share, fish }) => (
          <tr key={name} className={`border-t border-line ${name === "all" ? "font-semibold" : ""}`}>
            <td className="py-1">{name}</td>
            <td className="text-right whitespace-nowrap">{formatInterval(share.value, share.lower, share.upper, 0)}</td>
            <td className="text-right">{whole(share.n)}</td>
            <td className="text-right">{whole(fish)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Matrix({ matrix }: { matrix: NonNullable<Finding["matrix"]> }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <caption className="pb-1 text-left font-semibold">
          From zone to zone{" "}
          <span className="text-sm font-normal text-muted">
            journeys met by crews; in brackets per cent of the row as with like effort everywhere
          </span>
        </caption>
        <thead className="text-sm text-muted">
          <tr>
            <th>Let go in</th>
            {matrix.zones.map((zone) => (
              <th key={zone} className="pl-3 text-right">
                {zone}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {matrix.zones.map((zone, row) =>
            matrix.counts[row]!.some(Boolean) ? (
              <tr key={zone} className="border-t border-line">
                <td className="py-1">{zone}</td>
                {matrix.zones.map((other, column) => {
                  const share = matrix.corrected[row]![column];
                  return (
                    <td key={other} className={`pl-3 text-right ${row === column ? "font-semibold" : ""}`}>
                      {matrix.effort[column] ? matrix.counts[row]![column] : "not fished"}
                      {share !== null && share !== undefined && (
                        <span className="text-muted"> ({share.toFixed(0)})</span>
                      )}
                    </td>
                  );
                })}
              </tr>
            ) : null,
          )}
          <tr className="border-t border-line text-sm text-muted">
            <td className="py-1">Effort ({matrix.effort_unit})</td>
            {matrix.effort.map((spent, place) => (
              <td key={matrix.zones[place]} className="text-right">
                {spent.toFixed(1)}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Longest({ finding }: { finding: Finding }) {
  return (
    <table className="h-fit w-full text-left">
      <caption className="pb-1 text-left font-semibold">
        Longest journeys <span className="text-sm font-normal text-muted">single fish, not what fish do</span>
      </caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>From, to</th>
          <th className="pl-3 text-right">Distance (km)</th>
          <th className="pl-3 text-right">Days</th>
        </tr>
      </thead>
      <tbody>
        {finding.longest.map(({ fish, start, end, km, error_km, days }) => (
          <tr key={`${fish} ${days}`} className="border-t border-line">
            <td>
              <Link
                to="/fish/$fish"
                params={{ fish }}
                className="inline-flex min-h-[44px] items-center underline underline-offset-4"
              >
                {start} to {end}
              </Link>
            </td>
            <td className="text-right whitespace-nowrap">
              {km.toFixed(1)} <span className="text-muted">± {error_km.toFixed(1)}</span>
            </td>
            <td className="text-right">{whole(Math.round(days))}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What is less is drawn here: a logarithm has no nought. */
const LEAST_KM = 0.1;

/** What a dot says. */
const dotWords = ({ start, end, km, days }: Journey) =>
  `${start} to ${end}<br>${km.toFixed(1)} km in ${plural(Math.round(days), "day", "days")}`;

function Distances({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => ({
      tooltip: { formatter: ({ dataIndex }: { dataIndex: number }) => dotWords(finding.journeys[dataIndex]!) },
      xAxis: axis("Time at liberty (days)", palette, { type: "value", min: 0 }),
      yAxis: axis("Distance (km)", palette, { type: "log", min: LEAST_KM }),
      series: [
        {
          type: "scatter",
          symbolSize: 8,
          data: finding.journeys.map(({ days, km, error_km }) => ({
            value: [days, Math.max(km, LEAST_KM)],
            itemStyle:
              km > error_km
                ? { color: palette.data, opacity: 0.8 }
                : { color: "transparent", borderColor: palette.muted, borderWidth: 1.5 },
          })),
        },
      ],
    }),
    [finding],
  );
  return (
    <Chart
      label={`Distance and time of ${plural(finding.journeys.length, "journey", "journeys")}`}
      height={280}
      option={option}
      data={{
        columns: ["days", "distance (km)", "error (km)", "upstream (km)", "start", "end"],
        rows: finding.journeys.map(({ days, km, error_km, up_km, start, end }) => [
          days,
          km,
          error_km,
          up_km,
          start,
          end,
        ]),
      }}
    />
  );
}

const MONTHS = MONTH_CHOICES.map(({ label }) => label.slice(0, 3));

function Season({ finding }: { finding: Finding }) {
  const there = finding.journeys.filter(({ to_km }) => to_km !== null);
  const option = useCallback(
    (palette: Palette) => ({
      tooltip: { formatter: ({ dataIndex }: { dataIndex: number }) => dotWords(there[dataIndex]!) },
      xAxis: axis("Month", palette, {
        type: "value",
        min: 1,
        max: 366,
        interval: 30.5,
        axisLabel: { formatter: (day: number) => MONTHS[Math.round((day - 1) / 30.5)] ?? "", color: palette.ink },
      }),
      yAxis: axis("River km", palette, { type: "value", scale: true }),
      series: [
        {
          type: "scatter",
          symbolSize: 8,
          itemStyle: { color: palette.data, opacity: 0.8 },
          data: there.map(({ day_of_year, to_km }) => [day_of_year, to_km]),
        },
      ],
    }),
    [there],
  );
  if (!there.length) return <p className="text-sm text-muted">No place lies at a river kilometre.</p>;
  return (
    <Chart
      label={`Place through the year, ${plural(there.length, "encounter", "encounters")}`}
      height={280}
      option={option}
      data={{
        columns: ["day of year", "river km", "from river km", "days"],
        rows: there.map(({ day_of_year, to_km, from_km, days }) => [day_of_year, to_km, from_km, days]),
      }}
    />
  );
}

const A_DAY_MS = 86_400_000;

/** Kilometre against time, a line for each journey. */
function Strip({ finding }: { finding: Finding }) {
  const there = finding.journeys.filter(({ up_km }) => up_km !== null);
  const option = useCallback(
    (palette: Palette) => {
      const ends = there.map(({ ended, days, from_km, to_km }) => {
        const to = Date.parse(ended);
        return [
          [to - days * A_DAY_MS, from_km],
          [to, to_km],
        ];
      });
      return {
        tooltip: { formatter: ({ dataIndex }: { dataIndex: number }) => dotWords(there[dataIndex]!) },
        xAxis: axis("", palette, {
          type: "time",
          axisLabel: {
            color: palette.ink,
            formatter: (at: number) => `${MONTHS[new Date(at).getUTCMonth()]} ${new Date(at).getUTCFullYear()}`,
            hideOverlap: true,
          },
        }),
        yAxis: axis("River km", palette, { type: "value", scale: true }),
        series: [
          {
            type: "custom",
            silent: true,
            renderItem: ({ dataIndex }: { dataIndex: number }, api: { coord: (at: number[]) => [number, number] }) => {
              const [[x1, y1], [x2, y2]] = ends[dataIndex]!.map((at) => api.coord(at as number[])) as [
                [number, number],
                [number, number],
              ];
              return { type: "line", shape: { x1, y1, x2, y2 }, style: { stroke: palette.muted, lineWidth: 1 } };
            },
            encode: { x: 0, y: 1 },
            data: ends.map(([start]) => start),
          },
          { type: "scatter", symbolSize: 6, itemStyle: { color: palette.data }, data: ends.map(([, end]) => end) },
        ],
      };
    },
    [there],
  );
  if (!there.length) return <p className="text-sm text-muted">No journey has both places at a river kilometre.</p>;
  return (
    <Chart
      label={`The river as a strip, ${plural(there.length, "journey", "journeys")}`}
      height={300}
      option={option}
      data={{
        columns: ["from river km", "to river km", "met on", "days"],
        rows: there.map(({ from_km, to_km, ended, days }) => [from_km, to_km, ended, days]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "movement",
  title: "Stay and go",
  group: "Movement",
  order: 1,
  Finding: MovementFinding,
};
