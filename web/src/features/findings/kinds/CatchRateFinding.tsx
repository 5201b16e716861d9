import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { formatInterval, plural, whole } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { intervalLines } from "../interval-lines";

type Finding = Schemas["CatchRateFinding"];

const BY = [
  { value: "year", label: "Year" },
  { value: "season", label: "Season" },
  { value: "water", label: "Water" },
  { value: "zone", label: "Zone" },
  { value: "site", label: "Site" },
];

/** Catch per unit of effort, by year, season, place; bars along the water. */
function CatchRateFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="catch-rate" selection={selection} words="Counting the catches...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  const ask = (part: Partial<Pick<Finding, "gear" | "by" | "per" | "mean" | "from_mm">>) => {
    const { gear, by, per, mean, from_mm } = { ...finding, ...part };
    const size = from_mm === null ? [] : [`from_mm:${from_mm}`];
    onChange({ ask: [`with_gear:${gear}`, `by:${by}`, `per:${per}`, `mean:${mean}`, ...size] });
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        {finding.gears.length > 1 && (
          <Choices
            label="Gear"
            options={finding.gears.map(({ gear, name, n }) => ({ value: gear, label: `${name} (${whole(n)})` }))}
            chosen={finding.gear}
            onChoose={(gear) => ask({ gear })}
          />
        )}
        <Choices
          label="Compare by"
          options={BY}
          chosen={finding.by}
          onChoose={(by) => ask({ by: by as Finding["by"] })}
        />
        <Choices
          label="Per"
          options={[
            { value: "effort", label: "effort" },
            { value: "distance", label: "100 m fished" },
          ]}
          chosen={finding.per}
          onChoose={(per) => ask({ per: per as Finding["per"] })}
        />
        <Choices
          label="Mean"
          options={[
            { value: "effort", label: "all effort alike" },
            { value: "site", label: "each site alike" },
          ]}
          chosen={finding.mean}
          onChoose={(mean) => ask({ mean: mean as Finding["mean"] })}
        />
        {finding.sizes.length > 0 && (
          <Choices
            label="Fish"
            options={[
              { value: "", label: "all" },
              ...finding.sizes.map(({ name, from_mm }) => ({
                value: `${from_mm}`,
                label: `${name} (${from_mm} mm) +`,
              })),
            ]}
            chosen={finding.from_mm === null ? "" : `${finding.from_mm}`}
            onChoose={(mm) => ask({ from_mm: mm ? Number(mm) : null })}
          />
        )}
      </div>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_28rem]">
        <Picture
          title={`Catch rate by ${finding.by}`}
          note={
            finding.by === "site"
              ? "with 95 % intervals over visits; an open ring: fished, none caught; a cross: not fished"
              : "with 95 % intervals over sites; an open ring: fished, none caught"
          }
        >
          <Rates finding={finding} />
        </Picture>
        <div className="flex flex-col gap-4">
          <Groups finding={finding} />
          <EstimateTable
            caption="Change"
            what="Per cent more or fewer"
            rows={[finding.change, finding.trend].filter((each) => each !== null)}
            digits={0}
          />
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="catch-rate" />
    </>
  );
}

function Groups({ finding }: { finding: Finding }) {
  return (
    <div className="max-h-[24rem] overflow-y-auto">
      <table className="w-full text-left">
        <caption className="pb-1 text-left font-semibold">{finding.unit}, 95 % interval</caption>
        <thead className="text-sm text-muted">
          <tr>
            <th className="capitalize">{finding.by}</th>
            <th className="text-right">Rate</th>
            <th className="pl-3 text-right">Fish</th>
            <th className="pl-3 text-right">Runs</th>
            <th className="pl-3 text-right">None in</th>
          </tr>
        </thead>
        <tbody>
          {[...finding.groups, finding.all].map(({ name, rate, fish, runs, empty }) => (
            <tr key={name} className={`border-t border-line ${name === "all" ? "font-semibold" : ""}`}>
              <td className="py-1 pr-2">{name}</td>
              <td className="text-right whitespace-nowrap">
                {formatInterval(rate.value, rate.lower, rate.upper, (rate.value ?? 0) < 10 ? 2 : 1)}
              </td>
              <td className="text-right">{whole(fish)}</td>
              <td className="text-right">{whole(runs)}</td>
              <td className="text-right">{whole(empty)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Rates({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => {
      const { groups, not_fished: gaps } = finding;
      const alongWater = groups.every(({ river_km }) => river_km !== null);
      const at = (place: number) => (alongWater ? groups[place]!.river_km! : place);
      const bars = groups.map(({ rate }, place) => [at(place), rate.value, rate.lower, rate.upper]);
      return {
        tooltip: {
          formatter: ({ seriesName, dataIndex }: { seriesName: string; dataIndex: number }) => {
            if (seriesName === "gaps") return `${gaps[dataIndex]!.name}: not fished`;
            const { name, fish, runs } = groups[dataIndex]!;
            return `${name}: ${fish} fish in ${plural(runs, "run", "runs")}`;
          },
        },
        xAxis: alongWater
          ? axis("River km", palette, { type: "value", scale: true })
          : axis("", palette, { type: "category", data: groups.map(({ name }) => name) }),
        yAxis: axis(`${finding.unit[0]!.toUpperCase()}${finding.unit.slice(1)}`, palette, { type: "value", min: 0 }),
        series: [
          intervalLines(
            bars.map(([x, , low, high]) => [x!, low ?? null, high ?? null]),
            palette,
          ),
          {
            name: "rates",
            type: "scatter",
            symbolSize: 10,
            itemStyle: { color: palette.data },
            data: bars.map(([x, value]) =>
              value === 0
                ? {
                    value: [x, 0],
                    itemStyle: { color: palette.paper, borderColor: palette.ink, borderWidth: 2 },
                  }
                : { value: [x, value] },
            ),
          },
          ...(alongWater
            ? [
                {
                  name: "gaps",
                  type: "scatter",
                  symbol: "path://M0,0L10,10M10,0L0,10",
                  symbolSize: 8,
                  itemStyle: { color: "transparent", borderColor: palette.muted, borderWidth: 1.5 },
                  data: gaps.filter(({ river_km }) => river_km !== null).map(({ river_km }) => [river_km, 0]),
                },
              ]
            : []),
        ],
      };
    },
    [finding],
  );
  return (
    <Chart
      label={`Catch rate, ${plural(finding.groups.length, "group", "groups")}`}
      height={340}
      option={option}
      data={{
        columns: ["group", `rate (${finding.unit})`, "lower", "upper", "fish", "runs"],
        rows: finding.groups.map(({ name, rate, fish, runs }) => [
          name,
          rate.value,
          rate.lower,
          rate.upper,
          fish,
          runs,
        ]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "catch-rate",
  title: "Catch rate",
  group: "Abundance",
  order: 1,
  Finding: CatchRateFinding,
};
