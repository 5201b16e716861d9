import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/session";
import { axis, Chart, categoryAreas } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { Computing } from "../Computing";
import { countOf, EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { OverChoice } from "../OverChoice";
import { useSizeFinding } from "../queries";

function SizeFinding({ selection, onChange }: FindingProps) {
  const { membership } = useHere();
  const { finding, job, error, isPlaceholderData, again } = useSizeFinding(membership.programme, selection);
  if (error)
    return (
      <div className="py-4">
        <ErrorMessage failure={error} />
      </div>
    );
  if (!finding) return <Computing job={job} words="Measuring..." again={again} />;
  const { frequency, distribution } = finding;
  const cumulative = distribution.filter(({ name }) => name.startsWith("PSD"));
  const incremental = distribution.filter(({ name }) => !name.startsWith("PSD"));
  return (
    <>
      <Sentence finding={finding} stale={isPlaceholderData} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_21rem]">
        <div>
          <Picture
            title="Length-frequency"
            note={`${finding.species.name}, ${countOf(finding.n)}, ${finding.species.length_type}`}
          >
            <Frequency finding={finding} />
          </Picture>
          <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
            <Choices
              label="Bin width (mm)"
              options={frequency.offered_mm.map((value) => ({ value, label: BIN_NAMES[value] ?? String(value) }))}
              chosen={frequency.bin_mm}
              onChoose={(width) => onChange({ bin_mm: width })}
            />
            <span className="text-sm text-muted">
              proposed {frequency.suggested_mm}
              {frequency.freedman_diaconis_mm !== null &&
                `; Freedman-Diaconis ${frequency.freedman_diaconis_mm.toFixed(1)}`}
            </span>
            <OverChoice over={selection.over} anyYear onChange={onChange} />
          </div>
        </div>
        <div className="flex flex-col gap-4">
          <EstimateTable caption="Proportional size distribution" what="Index" rows={cumulative} digits={0} />
          <EstimateTable caption="Shares of stock-length fish" what="From-to" rows={incremental} digits={0} />
          <EstimateTable caption="Median" what="Length" rows={[finding.median]} digits={0} />
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="size" />
    </>
  );
}

const BIN_NAMES: Record<number, string> = { 12.7: "½ in", 25.4: "1 in" };

function Frequency({ finding }: { finding: Schemas["SizeFinding"] }) {
  const { frequency, categories, species, n } = finding;
  const option = useCallback(
    (palette: Palette) => {
      const { edges, counts, bin_mm } = frequency;
      const first = Math.min(edges[0]!, categories[0]?.from_mm ?? Number.POSITIVE_INFINITY);
      const low = Math.max(0, Math.floor((first - bin_mm) / 50) * 50);
      const high = Math.ceil((edges.at(-1)! + bin_mm) / 50) * 50;
      return {
        tooltip: {
          trigger: "item",
          formatter: ({ value }: { value: number[] }) =>
            `${value[0]} to ${value[1]} mm<br>${value[2]} fish, ${((100 * value[2]!) / n).toFixed(1)} %`,
        },
        xAxis: axis(
          `${species.length_type === "TL" ? "Total length" : `Length (${species.length_type})`} (mm)`,
          palette,
          { type: "value", min: low, max: high, splitLine: { show: false } },
        ),
        yAxis: axis(`Fish per ${bin_mm} mm`, palette, { type: "value", nameGap: 42, minInterval: 1 }),
        series: [
          {
            type: "custom",
            name: species.name,
            data: counts.map((count, place) => [edges[place], edges[place + 1], count]),
            renderItem: (
              _: unknown,
              api: { value: (place: number) => number; coord: (point: number[]) => number[] },
            ) => {
              const [x0, y0] = api.coord([api.value(0), api.value(2)]) as [number, number];
              const [x1, y1] = api.coord([api.value(1), 0]) as [number, number];
              return {
                type: "rect",
                shape: { x: x0 + 0.5, y: y0, width: Math.max(1, x1 - x0 - 1), height: y1 - y0 },
                style: { fill: palette.data },
              };
            },
            encode: { x: [0, 1], y: 2 },
            markArea: categoryAreas(
              categories.filter(({ from_mm }) => from_mm < high),
              high,
              palette,
            ),
          },
        ],
      };
    },
    [frequency, categories, species, n],
  );
  const data = {
    columns: ["from (mm)", "to (mm)", "fish"],
    rows: frequency.counts.map((count, place) => [frequency.edges[place]!, frequency.edges[place + 1]!, count]),
  };
  return <Chart label={`Length-frequency of ${n} ${species.name}`} height={340} option={option} data={data} />;
}

export const screen: FindingScreen = {
  kind: "size",
  title: "Size",
  group: "Size and condition",
  order: 1,
  Finding: SizeFinding,
};
