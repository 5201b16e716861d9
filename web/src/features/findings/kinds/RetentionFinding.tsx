import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { formatInterval, plural } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["RetentionFinding"];

const BY = [
  { value: "batch", label: "Batch" },
  { value: "colour", label: "Colour" },
  { value: "site", label: "Place on the body" },
  { value: "quality", label: "Quality of placement" },
  { value: "year", label: "Year of tagging" },
];
const DAYS_PER_MONTH = 30.4375;

/** How many tags of a kind stay in their fish. */
function RetentionFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="retention" selection={selection} words="Reading the tags...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  const ask = (tag: string, by: string) => onChange({ ask: [`tag:${tag}`, `by:${by}`] });
  return (
    <>
      <div className="flex flex-wrap gap-x-6 gap-y-2 pt-3">
        {finding.kinds.length > 1 && (
          <Choices
            label="Tag"
            options={finding.kinds.map(({ tag, name, n }) => ({
              value: tag,
              label: `${name} (${n.toLocaleString("en")})`,
            }))}
            chosen={finding.tag}
            onChoose={(tag) => ask(tag, finding.by)}
          />
        )}
        <Choices label="Compare by" options={BY} chosen={finding.by} onChoose={(by) => ask(finding.tag, by)} />
      </div>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_26rem]">
        {finding.at_days.length > 0 ? (
          <Picture title="Still carried" note="the line and its 95 % interval; each fish counts once">
            <Curve finding={finding} />
          </Picture>
        ) : (
          <p className="text-muted">A curve over time takes ten fish or more.</p>
        )}
        <div className="flex flex-col gap-4">
          <Groups finding={finding} />
          {finding.at_once && (
            <EstimateTable
              caption="Over time, and when read"
              what="Share"
              rows={[finding.at_once, finding.lost_a_year, finding.read].filter((each) => each !== null)}
              digits={0}
            />
          )}
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="retention" ofCaptures={false} />
    </>
  );
}

function Groups({ finding }: { finding: Finding }) {
  const by = BY.find(({ value }) => value === finding.by)?.label ?? "";
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">Still carried when last seen, by {by.toLowerCase()}</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>{by}</th>
          <th className="text-right">Kept (%), 95 % interval</th>
          <th className="pl-3 text-right">Median (months)</th>
          <th className="pl-3 text-right">Fish</th>
        </tr>
      </thead>
      <tbody>
        {finding.groups.map(({ name, kept, median_days }) => (
          <tr key={name} className="border-t border-line">
            <td className="py-1">{name}</td>
            <td className="text-right whitespace-nowrap">{formatInterval(kept.value, kept.lower, kept.upper, 0)}</td>
            <td className="text-right">{(median_days / DAYS_PER_MONTH).toFixed(0)}</td>
            <td className="text-right">{kept.n}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Curve({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => {
      const line = (values: number[], type: string, width: number) => ({
        type: "line",
        showSymbol: false,
        silent: true,
        lineStyle: { color: palette.ink, width, type },
        data: finding.at_days.map((days, place) => [days / DAYS_PER_MONTH, values[place]]),
      });
      return {
        xAxis: axis("Since tagging (months)", palette, { type: "value", min: 0 }),
        yAxis: axis("Still carried (%)", palette, { type: "value", min: 0, max: 100 }),
        series: [line(finding.mean, "solid", 2), line(finding.lower, "dotted", 1), line(finding.upper, "dotted", 1)],
      };
    },
    [finding],
  );
  return (
    <Chart
      label={`Tags still carried over time, ${plural(finding.n, "fish", "fish")}`}
      height={340}
      option={option}
      data={{
        columns: ["since tagging (days)", "still carried (%)", "lower (%)", "upper (%)"],
        rows: finding.at_days.map((days, place) => [
          days,
          finding.mean[place]!,
          finding.lower[place]!,
          finding.upper[place]!,
        ]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "retention",
  title: "Tags kept",
  group: "Survival and harvest",
  order: 1,
  Finding: RetentionFinding,
};
