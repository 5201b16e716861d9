import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { formatInterval, plural, whole } from "@/ui/words/format";
import { Asked } from "../Asked";
import { Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["AbundanceMarksFinding"];

const PARTS = [
  { value: "zone" as const, label: "Zone" },
  { value: "site" as const, label: "Site" },
  { value: "sex" as const, label: "Sex" },
  { value: "size" as const, label: "Size group" },
];
const partLabel = (by: Finding["by"]) => PARTS.find(({ value }) => value === by)!.label;
const CATCHES = ["day", "week", "month", "year"] as const;

/** How many fish, from marks let go and looked for over some catches. */
function AbundanceMarksFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="abundance-marks" selection={selection} words="Counting marks...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        <Choices
          label="A catch is"
          options={CATCHES.map((value) => ({ value, label: `a ${value}` }))}
          chosen={finding.catches}
          onChoose={(catches) => onChange({ ask: [`catches:${catches}`, `by:${finding.by}`] })}
        />
        <Choices
          label="Shares of marks by"
          options={PARTS}
          chosen={finding.by}
          onChoose={(by) => onChange({ ask: [`catches:${finding.catches}`, `by:${by}`] })}
        />
      </div>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_32rem]">
        <Picture
          title="Share with a mark"
          note="a dot for each catch after the first; on the line as many as the estimate expects"
        >
          <Shares finding={finding} />
        </Picture>
        <div className="flex flex-col gap-4">
          <Ways finding={finding} />
          <Counts finding={finding} />
          <Parts finding={finding} />
          <Strata finding={finding} />
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="abundance-marks" />
    </>
  );
}

function Ways({ finding }: { finding: Finding }) {
  const rows = [finding.best, ...finding.others];
  return (
    <div>
      <table className="w-full text-left">
        <caption className="pb-1 text-left font-semibold">How many fish</caption>
        <thead className="text-sm text-muted">
          <tr>
            <th>Estimate</th>
            <th className="text-right">Fish, 95 % interval</th>
            {rows.some(({ weight }) => weight !== null) && <th className="pl-3 text-right">Weight (%)</th>}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ name, taken, n, weight }, place) => (
            <tr key={name} className={`border-t border-line align-top ${place ? "" : "font-semibold"}`}>
              <td className="py-1">
                {name}
                <span className="block text-sm font-normal text-muted">{taken}</span>
              </td>
              <td className="text-right whitespace-nowrap">
                {formatInterval(n.value, n.lower, n.upper, 0)}
                {n.upper === null && <span className="block text-sm font-normal text-muted">no upper limit</span>}
              </td>
              {weight !== null && <td className="text-right">{weight.toFixed(0)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {finding.no_models && <p className="mt-1 text-sm text-muted">No models by fish: {finding.no_models}</p>}
    </div>
  );
}

function Counts({ finding }: { finding: Finding }) {
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">
        {plural(finding.counts.length, "catch", "catches")} over {plural(finding.days, "day", "days")}
      </caption>
      <thead className="text-sm text-muted">
        <tr>
          <th className="capitalize">{finding.catches}</th>
          <th className="text-right">Marks at large</th>
          <th className="pl-3 text-right">Looked at</th>
          <th className="pl-3 text-right">With a mark</th>
          <th className="pl-3 text-right">Newly let go</th>
        </tr>
      </thead>
      <tbody>
        {finding.counts.map(({ name, at_large, looked_at, recaptured, let_go }) => (
          <tr key={name} className="border-t border-line">
            <td className="py-1">{name}</td>
            <td className="text-right">{whole(at_large)}</td>
            <td className="text-right">{whole(looked_at)}</td>
            <td className="text-right">{whole(recaptured)}</td>
            <td className="text-right">{whole(let_go)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Parts({ finding }: { finding: Finding }) {
  if (finding.parts.length < 2) return null;
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">
        Share with a mark, by {partLabel(finding.by).toLowerCase()}
      </caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>{partLabel(finding.by)}</th>
          <th className="text-right">With a mark (%), 95 % interval</th>
          <th className="pl-3 text-right">Looked at</th>
        </tr>
      </thead>
      <tbody>
        {finding.parts.map(({ name, share }) => (
          <tr key={name} className="border-t border-line">
            <td className="py-1">{name}</td>
            <td className="text-right whitespace-nowrap">{formatInterval(share.value, share.lower, share.upper, 1)}</td>
            <td className="text-right">{whole(share.n)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Two catches: each part by itself, for fish that are caught unlike from part to part and stay in theirs. */
function Strata({ finding }: { finding: Finding }) {
  const { strata, no_strata } = finding;
  const part = partLabel(finding.by);
  if (no_strata)
    return (
      <p className="text-sm text-muted">
        No estimate by {part.toLowerCase()}: {no_strata}
      </p>
    );
  if (!strata) return null;
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">How many fish, each {part.toLowerCase()} by itself</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>{part}</th>
          <th className="text-right">Marked</th>
          <th className="pl-3 text-right">Looked at</th>
          <th className="pl-3 text-right">With a mark</th>
          <th className="pl-3 text-right">Fish, 95 % interval</th>
        </tr>
      </thead>
      <tbody>
        {strata.each.map(({ name, marked, caught, recaptured, n }) => (
          <tr key={name} className="border-t border-line">
            <td className="py-1">{name}</td>
            <td className="text-right">{whole(marked)}</td>
            <td className="text-right">{whole(caught)}</td>
            <td className="text-right">{whole(recaptured)}</td>
            <td className="text-right whitespace-nowrap">{formatInterval(n.value, n.lower, n.upper, 0)}</td>
          </tr>
        ))}
        <tr className="border-t border-ink font-semibold">
          <td className="py-1">All</td>
          <td colSpan={4} className="text-right whitespace-nowrap">
            {formatInterval(strata.n.value, strata.n.lower, strata.n.upper, 0)}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function Shares({ finding }: { finding: Finding }) {
  const there = finding.counts.filter(({ at_large, looked_at }) => at_large > 0 && looked_at > 0);
  const option = useCallback(
    (palette: Palette) => {
      const most = Math.max(...there.map(({ at_large }) => at_large), 1);
      const fish = finding.best.n.value ?? Number.POSITIVE_INFINITY;
      return {
        tooltip: {
          formatter: ({ seriesIndex, dataIndex }: { seriesIndex: number; dataIndex: number }) => {
            const each = there[dataIndex];
            return seriesIndex === 0 && each
              ? `${each.name}: ${each.recaptured} of ${each.looked_at} with a mark`
              : "as the estimate expects";
          },
        },
        xAxis: axis("Marks at large", palette, { type: "value", min: 0 }),
        yAxis: axis("With a mark (%)", palette, { type: "value", min: 0 }),
        series: [
          {
            type: "scatter",
            symbolSize: 10,
            itemStyle: { color: palette.data },
            data: there.map(({ at_large, looked_at, recaptured }) => [at_large, (100 * recaptured) / looked_at]),
          },
          {
            type: "line",
            showSymbol: false,
            lineStyle: { color: palette.ink, width: 1.5 },
            data: [
              [0, 0],
              [most, (100 * most) / fish],
            ],
          },
        ],
      };
    },
    [finding, there],
  );
  return (
    <Chart
      label={`Share with a mark by marks at large, ${plural(there.length, "catch", "catches")}`}
      height={340}
      option={option}
      data={{
        columns: ["catch", "marks at large", "looked at", "with a mark"],
        rows: there.map(({ name, at_large, looked_at, recaptured }) => [name, at_large, looked_at, recaptured]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "abundance-marks",
  title: "Fish by marks",
  group: "Abundance",
  order: 2,
  Finding: AbundanceMarksFinding,
};
