import { BarChart, CustomChart, LineChart, ScatterChart } from "echarts/charts";
import { GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent } from "echarts/components";
import { type EChartsCoreOption, init, use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";
import { useTheme } from "@/app/theme";

use([
  BarChart,
  CustomChart,
  LineChart,
  ScatterChart,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
]);

export interface Palette {
  ink: string;
  muted: string;
  line: string;
  data: string;
  signal: string;
  raised: string;
  bands: string[];
}

interface Props {
  /** What the picture shows, for those who do not see it. */
  label: string;
  height: number;
  option: (palette: Palette) => EChartsCoreOption;
}

/** A chart in the one theme all charts share; the option says only what is particular to it. */
export function Chart({ label, height, option }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const theme = useTheme();
  // the palette is read from the page, which the theme changes
  useEffect(() => {
    const chart = init(frame.current!, null, { renderer: "svg" });
    const palette = readPalette();
    chart.setOption({ ...common(palette), ...option(palette) });
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(frame.current!);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [option, theme]);
  return <div ref={frame} role="img" aria-label={label} style={{ height }} className="w-full" />;
}

/** An axis with its title and unit, as every chart has them. */
export function axis(name: string, palette: Palette, more: object = {}) {
  return {
    name,
    nameLocation: "middle",
    nameGap: 30,
    nameTextStyle: { color: palette.ink, fontSize: 13 },
    axisLine: { show: true, lineStyle: { color: palette.ink } },
    axisTick: { show: true, lineStyle: { color: palette.ink } },
    axisLabel: { color: palette.ink, fontSize: 12 },
    splitLine: { lineStyle: { color: palette.line, opacity: 0.5 } },
    ...more,
  };
}

/** Size categories behind a picture whose x axis is length. */
export function categoryAreas(categories: { name: string; from_mm: number }[], maxMm: number, palette: Palette) {
  return {
    silent: true,
    label: { position: "insideTopLeft", color: palette.muted, fontSize: 12 },
    data: categories.map(({ name, from_mm }, place) => [
      { name, xAxis: from_mm, itemStyle: { color: palette.bands[place], opacity: 0.75 } },
      { xAxis: categories[place + 1]?.from_mm ?? maxMm },
    ]),
  };
}

function common(palette: Palette): EChartsCoreOption {
  return {
    animation: false,
    backgroundColor: "transparent",
    textStyle: { fontFamily: getComputedStyle(document.body).fontFamily, color: palette.ink },
    grid: { left: 62, right: 16, top: 14, bottom: 46 },
    tooltip: {
      backgroundColor: palette.raised,
      borderColor: palette.ink,
      textStyle: { color: palette.ink },
      confine: true,
    },
  };
}

function readPalette(): Palette {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    ink: read("ink"),
    muted: read("muted"),
    line: read("line"),
    data: read("data"),
    signal: read("signal"),
    raised: read("raised"),
    bands: [1, 2, 3, 4, 5].map((place) => read(`band-${place}`)),
  };
}
