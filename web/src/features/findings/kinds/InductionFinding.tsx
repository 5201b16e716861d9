import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { plural } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["InductionFinding"];

/** Induction time in a bath, by the water's temperature. */
function InductionFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="induction" selection={selection} words="Reading the baths...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  return (
    <>
      {finding.others.length > 1 && (
        <div className="pt-3">
          <Choices
            label="Baths"
            options={finding.others.map(({ agent, purpose, n }) => ({
              value: `${agent} ${purpose}`,
              label: `${agent} for ${purpose} (${n})`,
            }))}
            chosen={`${finding.agent} ${finding.purpose}`}
            onChoose={(bath) =>
              onChange({ ask: bath.split(" ").map((part, at) => `${at ? "purpose" : "agent"}:${part}`) })
            }
          />
        </div>
      )}
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_24rem]">
        <Picture
          title="Induction time"
          note="a dot for each bath, larger with more fish; the line and its 95 % interval"
        >
          <TimesByTemperature finding={finding} />
        </Picture>
        <div className="flex flex-col gap-4">
          <EstimateTable caption="Effect of temperature" what="Ratio of times" rows={[finding.per_10c]} digits={2} />
          <BathTable finding={finding} />
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="induction" ofCaptures={false} />
    </>
  );
}

function BathTable({ finding }: { finding: Finding }) {
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">
        {plural(finding.baths.length, "bath", "baths")} of {finding.agent} for {finding.purpose}
      </caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>Water (°C)</th>
          <th className="text-right">Strength (mg/L)</th>
          <th className="text-right">Median time (s)</th>
          <th className="text-right">Fish</th>
        </tr>
      </thead>
      <tbody>
        {finding.baths.map(({ n, still_up, temperature_c, mg_l, median_s }) => (
          <tr key={`${temperature_c} ${mg_l} ${median_s}`} className="border-t border-line">
            <td className="py-1">{temperature_c.toFixed(1)}</td>
            <td className="text-right">{mg_l.toFixed(0)}</td>
            <td className="text-right">{median_s === null ? "longer than watched" : median_s.toFixed(0)}</td>
            <td className="text-right">{still_up ? `${n} (${still_up} upright)` : n}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function TimesByTemperature({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => {
      const line = (values: number[], type: string, width: number) => ({
        type: "line",
        showSymbol: false,
        silent: true,
        lineStyle: { color: palette.ink, width, type },
        data: finding.at_c.map((degrees, place) => [degrees, values[place]]),
      });
      return {
        tooltip: {
          formatter: ({ value }: { value: number[] }) =>
            `${value[0]!.toFixed(1)} °C, ${value[1]!.toFixed(0)} s<br>${value[2]} fish, ${value[3]!.toFixed(0)} mg/L`,
        },
        xAxis: axis("Water in the bath (°C)", palette, { type: "value", scale: true }),
        yAxis: axis("Induction time (s)", palette, { type: "value", min: 0 }),
        series: [
          {
            type: "scatter",
            symbolSize: ([, , n]: number[]) => 6 + 2 * Math.sqrt(n!),
            itemStyle: { color: palette.data, opacity: 0.8 },
            data: finding.baths
              .filter(({ median_s }) => median_s !== null)
              .map(({ temperature_c, median_s, n, mg_l }) => [temperature_c, median_s, n, mg_l]),
          },
          line(finding.mean_s, "solid", 2),
          line(finding.lower_s, "dotted", 1),
          line(finding.upper_s, "dotted", 1),
        ],
      };
    },
    [finding],
  );
  return (
    <Chart
      label={`Induction time by temperature, ${plural(finding.baths.length, "bath", "baths")}`}
      height={340}
      option={option}
      data={{
        columns: ["water (degC)", "strength (mg/L)", "median time (s)", "fish", "still upright"],
        rows: finding.baths.map(({ temperature_c, mg_l, median_s, n, still_up }) => [
          temperature_c,
          mg_l,
          median_s,
          n,
          still_up,
        ]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "induction",
  title: "Induction time",
  group: "Health",
  order: 1,
  Finding: InductionFinding,
};
