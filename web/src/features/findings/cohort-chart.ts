import type { EChartsType } from "echarts/core";
import type { Schemas } from "@/api/client";
import { axis } from "@/ui/Chart";
import type { Palette } from "@/ui/palette";

type Finding = Schemas["Cohorts"];

/** Lengths as bars, each cohort's curve, and their sum. */
export function cohortOption(finding: Finding, palette: Palette) {
  const { edges, counts, at_mm, curves, bin_mm } = finding;

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
}

/** A handle above each mean; dragged, the fit starts anew from there. */
export function attachHandles(
  chart: EChartsType,
  palette: Palette,
  cohorts: Finding["cohorts"],
  onStart: (means: number[]) => void,
) {
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
}
