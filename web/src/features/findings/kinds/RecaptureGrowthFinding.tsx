import { Link } from "@tanstack/react-router";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { formatInterval, plural, whole } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["RecaptureGrowthFinding"];

const BY = [
  { value: "sex", label: "Sex" },
  { value: "tag", label: "Tags" },
  { value: "zone", label: "Zone of tagging" },
];
const DAYS = [30, 90, 180, 365];

/** Growth of marked fish that were measured twice. */
function RecaptureGrowthFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="recapture-growth" selection={selection} words="Fitting growth...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  const ask = (part: Partial<Pick<Finding, "by" | "days">>) => {
    const { by, days, error_mm } = { ...finding, ...part };
    onChange({ ask: [`days:${days}`, `by:${by}`, ...(error_mm === null ? [] : [`error_mm:${error_mm}`])] });
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        <Choices
          label="Measured again after"
          options={DAYS.map((days) => ({ value: `${days}`, label: plural(days, "day", "days") }))}
          chosen={`${finding.days}`}
          onChoose={(days) => ask({ days: Number(days) })}
        />
        <Choices
          label="Compare by"
          options={BY}
          chosen={finding.by}
          onChoose={(by) => ask({ by: by as Finding["by"] })}
        />
      </div>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_28rem]">
        <Picture
          title="Growth by length"
          note="a dot for each fish, its growth as a year's; the line is the mean of a year"
        >
          <Growth finding={finding} />
        </Picture>
        <div className="flex flex-col gap-4">
          <EstimateTable caption="Growth in a year" what="At a length of" rows={finding.at} digits={0} />
          <EstimateTable
            caption="The curve of recaptures"
            what="Not that of length at age"
            rows={finding.curve}
            digits={1}
          />
          <p className="text-sm text-muted">
            Growth differs by {finding.variation.toFixed(0)} % from fish to fish; two lengths of one fish by{" "}
            {finding.estimated_error_mm.toFixed(1)} mm.
          </p>
          <Groups finding={finding} />
          <Odd finding={finding} />
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="recapture-growth" ofCaptures={false} />
    </>
  );
}

function Groups({ finding }: { finding: Finding }) {
  const by = BY.find(({ value }) => value === finding.by)?.label ?? "";
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">Growth in a year at {finding.middle_mm} mm</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>{by}</th>
          <th className="text-right">mm, 95 % interval</th>
          <th className="pl-3 text-right">Fish</th>
        </tr>
      </thead>
      <tbody>
        {finding.groups.map(({ name, growth, n }) => (
          <tr key={name} className="border-t border-line">
            <td className="py-1">{name}</td>
            <td className="text-right whitespace-nowrap">
              {growth ? formatInterval(growth.value, growth.lower, growth.upper, 0) : "too few"}
            </td>
            <td className="text-right">{whole(n)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Fish that grew least as the curve expects: another fish, or a slip. */
function Odd({ finding }: { finding: Finding }) {
  const off = [...finding.fish]
    .sort((a, b) => Math.abs(b.grown_mm - b.expected_mm) - Math.abs(a.grown_mm - a.expected_mm))
    .slice(0, 4);
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">Farthest from the curve</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>Length</th>
          <th className="text-right">Grew</th>
          <th className="pl-3 text-right">Expected</th>
          <th className="pl-3 text-right">Days</th>
        </tr>
      </thead>
      <tbody>
        {off.map(({ fish, length_mm, grown_mm, expected_mm, days }) => (
          <tr key={fish} className="border-t border-line">
            <td>
              <Link
                to="/fish/$fish"
                params={{ fish }}
                className="inline-flex min-h-[44px] items-center underline underline-offset-4"
              >
                {length_mm.toFixed(0)} mm
              </Link>
            </td>
            <td className="text-right">{grown_mm.toFixed(0)} mm</td>
            <td className="text-right">{expected_mm.toFixed(0)} mm</td>
            <td className="text-right">{whole(Math.round(days))}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Growth({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => {
      return {
        tooltip: {
          formatter: ({ seriesIndex, dataIndex }: { seriesIndex: number; dataIndex: number }) => {
            const each = finding.fish[dataIndex];
            return seriesIndex === 0 && each
              ? `${each.length_mm.toFixed(0)} mm, grew ${each.grown_mm.toFixed(0)} mm in ${Math.round(each.days)} days<br>${each.mm_month.toFixed(1)} mm a month`
              : "mean growth in a year";
          },
        },
        xAxis: axis("Length at tagging (mm)", palette, { type: "value", scale: true }),
        yAxis: axis("Growth (mm a year)", palette, { type: "value" }),
        series: [
          {
            type: "scatter",
            symbolSize: 7,
            itemStyle: { color: palette.data, opacity: 0.7 },
            data: finding.fish.map(({ length_mm, mm_year }) => [length_mm, mm_year]),
          },
          {
            type: "line",
            showSymbol: false,
            lineStyle: { color: palette.ink, width: 2 },
            data: finding.line.map(({ length_mm, mm_year }) => [length_mm, mm_year]),
          },
        ],
      };
    },
    [finding],
  );
  return (
    <Chart
      label={`Growth by length, ${plural(finding.fish.length, "fish", "fish")}`}
      height={400}
      option={option}
      data={{
        columns: ["length at tagging (mm)", "grown (mm)", "days", "mm a month", "expected (mm)"],
        rows: finding.fish.map(({ length_mm, grown_mm, days, mm_month, expected_mm }) => [
          length_mm,
          grown_mm,
          days,
          mm_month,
          expected_mm,
        ]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "recapture-growth",
  title: "Growth of marked fish",
  group: "Age and growth",
  order: 1,
  Finding: RecaptureGrowthFinding,
};
