import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";

/** Induction time against strength, with the line and its interval. */
export function InductionPicture({ data }: { data: Schemas["Inductions"] }) {
  const { points, line } = data;
  return (
    <Chart
      label={`Induction time against strength of the bath, ${points.length} fish`}
      height={220}
      data={{
        columns: [
          "strength (mg/L)",
          "time to stage 4, or until last seen (s)",
          "reached stage 4",
          "length (mm)",
          "temperature (C)",
        ],
        rows: points.map(({ mg_l, seconds, lay, length_mm, temperature_c }) => [
          mg_l,
          seconds,
          lay ? "yes" : "no",
          length_mm,
          temperature_c,
        ]),
      }}
      option={(palette) => ({
        xAxis: { ...axis("strength (mg/L)", palette), scale: true },
        yAxis: { ...axis("time to stage 4 (s)", palette), min: 0 },
        series: [
          {
            type: "scatter",
            symbolSize: 9,
            itemStyle: { color: palette.data },
            data: points.filter(({ lay }) => lay).map(({ mg_l, seconds }) => [mg_l, seconds]),
          },
          {
            // upright when last seen: the time itself is longer
            type: "scatter",
            symbol: "triangle",
            symbolSize: 10,
            itemStyle: { color: "transparent", borderColor: palette.data, borderWidth: 1.5 },
            data: points.filter(({ lay }) => !lay).map(({ mg_l, seconds }) => [mg_l, seconds]),
          },
          ...(line
            ? (["mean_s", "lower_s", "upper_s"] as const).map((of) => ({
                type: "line",
                symbol: "none",
                lineStyle: {
                  color: palette.ink,
                  width: of === "mean_s" ? 2 : 1,
                  type: of === "mean_s" ? "solid" : "dashed",
                },
                data: line.at_mg_l.map((mg_l, place) => [mg_l, line[of][place]]),
              }))
            : []),
        ],
      })}
    />
  );
}
