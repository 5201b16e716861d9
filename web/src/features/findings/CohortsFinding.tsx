import type { EChartsType } from "echarts/core";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/app/session";
import { Button } from "@/ui/Button";
import { axis, Chart, type Palette } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import { formatInterval } from "@/ui/format";
import { ErrorMessage } from "@/ui/Message";
import { Computing } from "./Computing";
import { Footing, Picture, Sentence } from "./FindingParts";
import { useCohorts } from "./queries";
import { type Selection, SPREADS, type Spread } from "./selection";

type Finding = Schemas["Cohorts"];

interface Props {
  selection: Selection & { species: string };
  onChange: (part: Partial<Selection>) => void;
}

/** Year-classes within the lengths; the handles above the picture may be dragged to where the means should start. */
export function CohortsFinding({ selection, onChange }: Props) {
  const { membership } = useHere();
  const { finding, job, error, isPlaceholderData, again } = useCohorts(membership.programme, selection);
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        <Choices
          label="Cohorts"
          options={[{ value: 0, label: "by BIC" }, ...[1, 2, 3, 4, 5, 6].map((k) => ({ value: k, label: String(k) }))]}
          chosen={selection.start ? selection.start.length : (selection.k ?? 0)}
          onChoose={(k) => onChange({ k: k || undefined, start: undefined })}
        />
        <Choices
          label="Spread"
          options={Object.entries(SPREADS).map(([value, label]) => ({ value: value as Spread, label }))}
          chosen={selection.spread ?? "free"}
          onChoose={(spread) => onChange({ spread: spread === "free" ? undefined : spread })}
        />
        {selection.start && <Button onClick={() => onChange({ start: undefined })}>Starts by themselves again</Button>}
      </div>
      {error ? (
        <div className="py-4">
          <ErrorMessage failure={error} />
        </div>
      ) : !finding ? (
        <Computing job={job} words="Fitting..." again={again} />
      ) : (
        <>
          <Sentence finding={finding} stale={isPlaceholderData} />
          <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_24rem]">
            <Picture title="Lengths and fitted cohorts" note="drag a handle to start its mean elsewhere">
              <Curves finding={finding} onStart={(start) => onChange({ start, k: undefined })} />
            </Picture>
            <div className="flex flex-col gap-4">
              <table className="w-full text-left">
                <caption className="pb-1 text-left font-semibold">Cohorts</caption>
                <thead className="text-sm text-muted">
                  <tr>
                    <th>#</th>
                    <th className="text-right">Mean (mm, interval)</th>
                    <th className="text-right">SD (mm)</th>
                    <th className="text-right">Share (%)</th>
                    <th className="text-right">n</th>
                  </tr>
                </thead>
                <tbody>
                  {finding.cohorts.map(({ mean, sd_mm, share, n }, place) => (
                    <tr key={mean.name} className="border-t border-line">
                      <td className="py-1">{place + 1}</td>
                      <td className="text-right">{formatInterval(mean.value, mean.lower, mean.upper, 0)}</td>
                      <td className="text-right">{sd_mm.toFixed(0)}</td>
                      <td className="text-right">{(100 * share).toFixed(0)}</td>
                      <td className="text-right">{Math.round(n).toLocaleString("en")}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <table className="w-full text-left">
                <caption className="pb-1 text-left font-semibold">BIC (the smallest is chosen)</caption>
                <tbody>
                  {finding.bic.map(({ k, bic }) => (
                    <tr key={k} className={`border-t border-line ${k === finding.k ? "font-semibold" : "text-muted"}`}>
                      <td className="py-0.5">
                        {k} {k === 1 ? "cohort" : "cohorts"} {k === finding.k && "(shown)"}
                      </td>
                      <td className="text-right">{bic.toFixed(1)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </div>
          <Footing finding={finding} selection={selection} kind="cohorts" />
        </>
      )}
    </>
  );
}

function Curves({ finding, onStart }: { finding: Finding; onStart: (means: number[]) => void }) {
  const { edges, counts, at_mm, curves, cohorts, bin_mm } = finding;
  const option = useCallback(
    (palette: Palette) => {
      const total = at_mm.map((_, place) => curves.reduce((sum, curve) => sum + curve[place]!, 0));
      return {
        grid: { left: 62, right: 16, top: 34, bottom: 46 },
        xAxis: axis(`Length, ${finding.species.length_type} (mm)`, palette, {
          type: "value",
          min: edges[0],
          max: edges.at(-1),
          splitLine: { show: false },
        }),
        yAxis: axis(`Fish per ${bin_mm} mm`, palette, { type: "value", nameGap: 42 }),
        series: [
          {
            type: "custom",
            silent: true,
            data: counts.map((count, place) => [edges[place], edges[place + 1], count]),
            encode: { x: [0, 1], y: 2 },
            renderItem: (_: unknown, api: { value: (at: number) => number; coord: (point: number[]) => number[] }) => {
              const [x0, y0] = api.coord([api.value(0), api.value(2)]) as [number, number];
              const [x1, y1] = api.coord([api.value(1), 0]) as [number, number];
              return {
                type: "rect",
                shape: { x: x0 + 0.5, y: y0, width: Math.max(1, x1 - x0 - 1), height: y1 - y0 },
                style: { fill: palette.bands[3], stroke: palette.line },
              };
            },
          },
          ...curves.map((curve, place) => ({
            type: "line",
            name: `Cohort ${place + 1}`,
            showSymbol: false,
            silent: true,
            lineStyle: { color: palette.data, width: 2, type: place % 2 ? "dashed" : "solid" },
            data: curve.map((value, at) => [at_mm[at], value]),
          })),
          {
            type: "line",
            showSymbol: false,
            silent: true,
            lineStyle: { color: palette.ink, width: 2.5 },
            data: total.map((value, at) => [at_mm[at], value]),
          },
        ],
      };
    },
    [finding, edges, counts, at_mm, curves, bin_mm],
  );
  const attach = useCallback(
    (chart: EChartsType, palette: Palette) => {
      const means = cohorts.map(({ mean }) => mean.value ?? 0);
      chart.setOption({
        graphic: means.map((mean, place) => ({
          id: `handle ${place}`,
          type: "group",
          x: chart.convertToPixel({ xAxisIndex: 0 }, mean) as number,
          y: 20,
          draggable: "horizontal",
          cursor: "ew-resize",
          z: 100,
          ondragend(this: { x: number }) {
            const moved = chart.convertFromPixel({ xAxisIndex: 0 }, this.x) as number;
            onStart(means.map((each, at) => Math.max(1, Math.round(at === place ? moved : each))));
          },
          children: [
            { type: "line", shape: { x1: 0, y1: 0, x2: 0, y2: 280 }, style: { stroke: palette.ink, lineDash: [3, 3] } },
            {
              type: "polygon",
              shape: {
                points: [
                  [-9, -12],
                  [9, -12],
                  [0, 2],
                ],
              },
              style: { fill: palette.ink },
            },
            {
              type: "text",
              x: 12,
              y: -12,
              style: { text: `${place + 1}`, fill: palette.ink, font: `600 13px ${palette.font}` },
            },
          ],
        })),
      });
    },
    [cohorts, onStart],
  );
  return (
    <Chart
      label={`Lengths with ${cohorts.length} fitted cohorts at ${cohorts.map(({ mean }) => mean.value?.toFixed(0)).join(", ")} mm`}
      height={370}
      option={option}
      data={{
        columns: ["length (mm)", ...curves.map((_, place) => `cohort ${place + 1} (fish per ${bin_mm} mm)`)],
        rows: at_mm.map((mm, at) => [mm, ...curves.map((curve) => curve[at]!)]),
      }}
      attach={attach}
    />
  );
}
