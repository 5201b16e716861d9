import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/session";
import { axis, Chart, categoryAreas } from "@/ui/Chart";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { formatDifference } from "@/ui/words/format";
import { ByChoice } from "../ByChoice";
import { Computing } from "../Computing";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { PairTable } from "../PairTable";
import { useSizeCompared } from "../queries";

const PANEL = 92;
const TOP = 8;
const BOTTOM = 52;

/** Lengths of groups as stacked panels on one axis. */
function SizeCompared({ selection, onChange }: FindingProps) {
  const { membership } = useHere();
  const { finding, job, error, isPlaceholderData, again } = useSizeCompared(membership.programme, selection);
  return (
    <>
      <ByChoice selection={selection} onChange={onChange} />
      {error ? (
        <div className="py-4">
          <ErrorMessage failure={error} />
        </div>
      ) : !finding ? (
        <Computing job={job} words="Comparing..." again={again} />
      ) : (
        <>
          <Sentence finding={finding} stale={isPlaceholderData} />
          <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_24rem]">
            <Picture title="Length-frequency by group" note={`per cent of each group, bins of ${finding.bin_mm} mm`}>
              <Panels finding={finding} />
            </Picture>
            <div className="flex flex-col gap-4">
              <EstimateTable caption="Median length (mm)" what="Group" rows={named(finding, "median")} digits={0} />
              <EstimateTable
                caption="PSD (%, n of stock length)"
                what="Group"
                rows={named(finding, "psd")}
                digits={0}
              />
              {finding.trend && (
                <EstimateTable
                  caption="Trend of the median"
                  what="Change (mm)"
                  rows={[finding.trend.slope]}
                  digits={1}
                />
              )}
              <PairTable
                caption="Pairs"
                columns={["Shift (mm)"]}
                rows={finding.pairs.map(({ first, second, shift: each, p_holm, p_at_most }) => ({
                  first,
                  second,
                  differences: [formatDifference(each.value, each.lower, each.upper, 0)],
                  p: p_holm,
                  atMost: p_at_most,
                }))}
              />
            </div>
          </div>
          <Footing finding={finding} selection={selection} kind="size-compared" />
        </>
      )}
    </>
  );
}

/** A group's estimates under the group's name. */
function named(finding: Schemas["SizeCompared"], what: "median" | "psd"): Schemas["Estimate"][] {
  return finding.groups.flatMap((group) => {
    const estimate = group[what];
    return estimate ? [{ ...estimate, name: group.name, unit: "" }] : [];
  });
}

function Panels({ finding }: { finding: Schemas["SizeCompared"] }) {
  const { groups, edges, categories, bin_mm, species } = finding;
  const option = useCallback(
    (palette: Palette) => {
      const low = Math.max(0, Math.floor(Math.min(edges[0]!, categories[0]?.from_mm ?? edges[0]!) / 50) * 50);
      const high = Math.ceil((edges.at(-1)! + bin_mm) / 50) * 50;
      const most = Math.ceil(Math.max(...groups.flatMap(({ counts, n }) => counts.map((count) => (100 * count) / n))));
      const last = groups.length - 1;
      return {
        tooltip: {
          trigger: "item",
          formatter: ({ value, seriesName }: { value: number[]; seriesName: string }) =>
            `${seriesName}<br>${value[0]} to ${value[1]} mm: ${value[3]} fish, ${value[2]!.toFixed(1)} %`,
        },
        grid: groups.map((_, place) => ({ left: 62, right: 16, top: TOP + place * PANEL, height: PANEL - 12 })),
        xAxis: groups.map((_, place) => ({
          ...axis(place === last ? `Length, ${species.length_type} (mm)` : "", palette, {
            type: "value",
            min: low,
            max: high,
          }),
          gridIndex: place,
          splitLine: { show: false },
          axisLabel: { show: place === last, color: palette.ink },
        })),
        yAxis: groups.map((_, place) => ({
          ...axis(place === Math.floor(last / 2) ? "Per cent of group" : "", palette, {
            type: "value",
            min: 0,
            max: most,
            nameGap: 36,
          }),
          gridIndex: place,
          splitNumber: 2,
        })),
        graphic: groups.map(({ name, n }, place) => ({
          type: "text",
          left: 70,
          z: 100,
          top: TOP + place * PANEL + 4,
          silent: true,
          style: {
            text: `${name}, n = ${n.toLocaleString("en")}`,
            fill: palette.ink,
            font: `600 13px ${palette.font}`,
          },
        })),
        series: groups.map(({ name, counts, n, median }, place) => ({
          type: "custom",
          name,
          xAxisIndex: place,
          yAxisIndex: place,
          data: counts.map((count, bin) => [edges[bin], edges[bin + 1], (100 * count) / n, count]),
          encode: { x: [0, 1], y: 2 },
          renderItem: (_: unknown, api: { value: (at: number) => number; coord: (point: number[]) => number[] }) => {
            const [x0, y0] = api.coord([api.value(0), api.value(2)]) as [number, number];
            const [x1, y1] = api.coord([api.value(1), 0]) as [number, number];
            return {
              type: "rect",
              shape: { x: x0 + 0.5, y: y0, width: Math.max(1, x1 - x0 - 1), height: y1 - y0 },
              style: { fill: palette.data },
            };
          },
          markLine: {
            silent: true,
            symbol: "none",
            label: { show: false },
            lineStyle: { color: palette.ink, type: "dashed" },
            data: [{ xAxis: median.value ?? 0 }],
          },
          markArea: {
            ...categoryAreas(
              categories.filter(({ from_mm }) => from_mm < high),
              high,
              palette,
            ),
            label: { show: place === 0, position: "insideTopLeft", color: palette.muted, fontSize: 12 },
          },
        })),
      };
    },
    [groups, edges, categories, bin_mm, species],
  );
  return (
    <Chart
      label={`Length-frequency of ${groups.length} groups, each as per cent, the median as a dashed line`}
      height={TOP + groups.length * PANEL + BOTTOM}
      option={option}
      data={{
        columns: ["group", "from (mm)", "to (mm)", "fish"],
        rows: groups.flatMap(({ name, counts }) =>
          counts.map((count, place) => [name, edges[place]!, edges[place + 1]!, count]),
        ),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "size-compared",
  title: "Size compared",
  group: "Size and condition",
  order: 2,
  Finding: SizeCompared,
};
