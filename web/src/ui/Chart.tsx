import { BarChart, CustomChart, LineChart, ScatterChart } from "echarts/charts";
import {
  GraphicComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from "echarts/components";
import { type EChartsCoreOption, type EChartsType, init, use } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";
import { type Palette, readPalette } from "@/ui/palette";
import { useTheme } from "@/ui/theme";
import { Downloads } from "./pictures/Downloads";
import { type PictureData, savePicture } from "./pictures/save-picture";

use([
  BarChart,
  CustomChart,
  LineChart,
  ScatterChart,
  GraphicComponent,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
]);

interface Props {
  /** What the picture shows, for those who do not see it. */
  label: string;
  height: number;
  option: (palette: Palette) => EChartsCoreOption;
  /** The figures behind the picture, for taking home. */
  data: PictureData;
  /** Handles and listeners that need the chart itself; called again when its size changes. */
  attach?: (chart: EChartsType, palette: Palette) => void;
}

/** A chart in the one theme all charts share; the option says only what is particular to it. */
export function Chart({ label, height, option, data, attach }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const shown = useRef<EChartsType>(null);
  const theme = useTheme();
  // the palette is read from the page, which the theme changes
  useEffect(() => {
    const chart = init(frame.current!, null, { renderer: "svg" });
    shown.current = chart;
    const palette = readPalette();
    chart.setOption({ ...common(palette), ...option(palette) });
    const observer = new ResizeObserver(() => {
      chart.resize();
      attach?.(chart, palette);
    });
    observer.observe(frame.current!);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [option, attach, theme]);
  const save = (kind: "svg" | "png" | "csv") => {
    const chart = shown.current!;
    const size = { width: chart.getWidth(), height: chart.getHeight() };
    // the live drawing, not the chart's own text of it, which leaves the quotes of font names unescaped
    const svg = new XMLSerializer().serializeToString(frame.current!.querySelector("svg")!);
    void savePicture(kind, label, data, svg, size, readPalette().paper);
  };
  return (
    <div className="relative">
      <div ref={frame} role="img" aria-label={label} style={{ height }} className="w-full" />
      <Downloads onSave={save} />
    </div>
  );
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
    axisLabel: {
      color: palette.ink,
      fontSize: 12,
      hideOverlap: true,
      // the ends of an axis are the data's own figures: told in at most six places, and inside the picture
      formatter: (value: number | string) =>
        typeof value === "number" ? Number(value.toPrecision(6)).toLocaleString("en") : value,
    },
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
