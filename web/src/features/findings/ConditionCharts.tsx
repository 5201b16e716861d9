import type { EChartsType } from "echarts/core";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import type { Palette } from "@/ui/palette";

type Finding = Schemas["ConditionFinding"];

interface Props {
  finding: Finding;
  /** A touch on a point opens that fish. */
  onOpen: (capture: string) => void;
}

const HEIGHT = 270;
const FLAG = 3;

/** Shape as well as colour: a flagged fish is a ring. */
function fishPoints(finding: Finding, y: (place: number) => number | null, palette: Palette) {
  const { length_mm, studentised } = finding.points;
  const places = length_mm.map((_, place) => place).filter((place) => y(place) !== null);
  const point = (place: number) => [length_mm[place], y(place), place];
  return [
    {
      type: "scatter",
      symbolSize: 5,
      itemStyle: { color: palette.data, opacity: 0.45 },
      data: places.filter((place) => Math.abs(studentised[place]!) <= FLAG).map(point),
    },
    {
      type: "scatter",
      symbol: "circle",
      symbolSize: 9,
      itemStyle: { color: "transparent", borderColor: palette.ink, borderWidth: 2 },
      data: places.filter((place) => Math.abs(studentised[place]!) > FLAG).map(point),
    },
  ];
}

function fishTooltip(finding: Finding) {
  const { length_mm, mass_g, studentised, wr } = finding.points;
  return {
    formatter: ({ value }: { value: number[] }) => {
      const place = value[2];
      if (place === undefined) return "";
      const weight = wr[place] === null ? "" : `, Wr ${wr[place]!.toFixed(0)}`;
      return `${length_mm[place]} mm, ${mass_g[place]} g${weight}<br>studentised residual ${studentised[place]!.toFixed(1)}`;
    },
  };
}

export function LengthMassChart({ finding, onOpen }: Props) {
  const option = useCallback(
    (palette: Palette) => {
      const { curve, points } = finding;
      const line = (column: number[], type: string, width: number) => ({
        type: "line",
        showSymbol: false,
        silent: true,
        lineStyle: { color: palette.ink, width, type },
        data: curve.length_mm.map((mm, place) => [mm, column[place]]),
      });
      return {
        tooltip: fishTooltip(finding),
        xAxis: axis("Length (mm), log scale", palette, { type: "log", ...logRange(curve.length_mm) }),
        yAxis: axis("Mass (g), log scale", palette, { type: "log", nameGap: 46, ...logRange(points.mass_g) }),
        series: [
          ...fishPoints(finding, (place) => points.mass_g[place]!, palette),
          line(curve.mass_g, "solid", 2),
          line(curve.mean_lower_g, "dotted", 1),
          line(curve.mean_upper_g, "dotted", 1),
          line(curve.lower_g, "dashed", 1),
          line(curve.upper_g, "dashed", 1),
        ],
      };
    },
    [finding],
  );
  return (
    <Chart
      label="Mass against length with the fitted line, the interval of the mean and that for one new fish"
      height={HEIGHT}
      option={option}
      data={pointData(finding)}
      attach={useOpening(finding, onOpen)}
    />
  );
}

export function ResidualChart({ finding, onOpen }: Props) {
  const option = useCallback(
    (palette: Palette) => ({
      tooltip: fishTooltip(finding),
      xAxis: axis("Length (mm)", palette, { type: "value", scale: true }),
      yAxis: axis("Studentised residual (SD)", palette, { type: "value", nameGap: 40 }),
      series: [
        ...fishPoints(finding, (place) => finding.points.studentised[place]!, palette),
        { type: "scatter", data: [], markLine: levels([-FLAG, 0, FLAG], palette) },
      ],
    }),
    [finding],
  );
  return (
    <Chart
      label="Studentised residuals of log mass against length"
      height={HEIGHT}
      option={option}
      data={pointData(finding)}
      attach={useOpening(finding, onOpen)}
    />
  );
}

export function RelativeWeightChart({ finding, onOpen }: Props) {
  const option = useCallback(
    (palette: Palette) => ({
      tooltip: fishTooltip(finding),
      xAxis: axis("Length (mm)", palette, { type: "value", scale: true }),
      yAxis: axis("Relative weight Wr (%)", palette, { type: "value", nameGap: 40, scale: true }),
      series: [
        ...fishPoints(finding, (place) => finding.points.wr[place] ?? null, palette),
        {
          type: "scatter",
          data: [],
          markLine: levels([100], palette),
          markArea: {
            silent: true,
            itemStyle: { color: palette.bands[3], opacity: 0.7 },
            data: [[{ yAxis: finding.benchmark[0]! }, { yAxis: finding.benchmark[1]! }]],
          },
        },
      ],
    }),
    [finding],
  );
  return (
    <Chart
      label={`Relative weight against length, the benchmark of ${finding.benchmark.join(" to ")} as a band`}
      height={HEIGHT}
      option={option}
      data={pointData(finding)}
      attach={useOpening(finding, onOpen)}
    />
  );
}

function useOpening({ points }: Finding, onOpen: (capture: string) => void) {
  return useCallback(
    (chart: EChartsType) => {
      chart.off("click");
      chart.on("click", ({ value }) => {
        const place = Array.isArray(value) ? value[2] : undefined;
        const capture = typeof place === "number" ? points.capture[place] : undefined;
        if (capture) onOpen(capture);
      });
    },
    [points, onOpen],
  );
}

function pointData({ points }: Finding) {
  return {
    columns: ["capture", "length (mm)", "mass (g)", "studentised residual (SD)", "Wr (%)"],
    rows: points.capture.map((capture, place) => [
      capture,
      points.length_mm[place]!,
      points.mass_g[place]!,
      points.studentised[place]!,
      points.wr[place] ?? null,
    ]),
  };
}

function levels(at: number[], palette: Palette) {
  return {
    silent: true,
    symbol: "none",
    label: { show: false },
    lineStyle: { color: palette.ink, type: "dashed", width: 1 },
    data: at.map((yAxis) => ({ yAxis })),
  };
}

/** The ends of a log axis, a little beyond the data. */
function logRange(values: number[]) {
  const low = Math.min(...values) * 0.9;
  const high = Math.max(...values) * 1.1;
  const digits = (value: number) => 10 ** (Math.floor(Math.log10(value)) - 1);
  return { min: Math.floor(low / digits(low)) * digits(low), max: Math.ceil(high / digits(high)) * digits(high) };
}
