import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import type { Palette } from "@/ui/palette";
import { formatInterval, plural, whole } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { intervalLines } from "../interval-lines";

type Finding = Schemas["ReturnRateFinding"];

const BY = [
  { value: "year", label: "Year of tagging" },
  { value: "batch", label: "Batch" },
  { value: "colour", label: "Colour" },
  { value: "reward", label: "Reward" },
];

/** How many tags that went out were reported by finders. */
function ReturnRateFinding({ selection, onChange }: FindingProps) {
  return (
    <Asked<Finding> kind="return-rate" selection={selection} words="Reading the reports...">
      {(finding, stale) => <Told finding={finding} selection={selection} onChange={onChange} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, onChange, stale }: FindingProps & { finding: Finding; stale: boolean }) {
  const ask = (tag: string, by: string, year: boolean) =>
    onChange({ ask: [`tag:${tag}`, `by:${by}`, `first_year:${year}`] });
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        {finding.kinds.length > 1 && (
          <Choices
            label="Tag"
            options={finding.kinds.map(({ tag, name, n }) => ({ value: tag, label: `${name} (${whole(n)})` }))}
            chosen={finding.tag}
            onChoose={(tag) => ask(tag, finding.by, finding.first_year)}
          />
        )}
        <Choices
          label="Compare by"
          options={BY}
          chosen={finding.by}
          onChoose={(by) => ask(finding.tag, by, finding.first_year)}
        />
        <label className="flex min-h-[44px] items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={finding.first_year}
            onChange={({ target }) => ask(finding.tag, finding.by, target.checked)}
          />
          Only reports within a year of release
        </label>
      </div>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_26rem]">
        <Picture title="Reported" note="a dot for each group with its 95 % interval">
          <Shares finding={finding} />
        </Picture>
        <div className="flex flex-col gap-4">
          <Groups finding={finding} />
          {finding.reporting && (
            <EstimateTable caption="By tags with a reward" what="Share" rows={[finding.reporting]} digits={0} />
          )}
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="return-rate" ofCaptures={false} />
    </>
  );
}

function Groups({ finding }: { finding: Finding }) {
  const by = BY.find(({ value }) => value === finding.by)?.label ?? "";
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">Reported, by {by.toLowerCase()}</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>{by}</th>
          <th className="text-right">Reported (%), 95 % interval</th>
          <th className="pl-3 text-right">Reports</th>
          <th className="pl-3 text-right">Tags</th>
        </tr>
      </thead>
      <tbody>
        {finding.groups.map(({ name, share, reported }) => (
          <tr key={name} className="border-t border-line">
            <td className="py-1">{name}</td>
            <td className="text-right whitespace-nowrap">{formatInterval(share.value, share.lower, share.upper, 1)}</td>
            <td className="text-right">{reported}</td>
            <td className="text-right">{whole(share.n)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Shares({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => ({
      xAxis: axis("", palette, { type: "category", data: finding.groups.map(({ name }) => name) }),
      yAxis: axis("Reported (%)", palette, { type: "value", min: 0 }),
      series: [
        intervalLines(
          finding.groups.map(({ share }, place) => [place, share.lower, share.upper]),
          palette,
        ),
        {
          type: "scatter",
          symbolSize: 9,
          itemStyle: { color: palette.data },
          data: finding.groups.map(({ share }, place) => [place, share.value]),
        },
      ],
    }),
    [finding],
  );
  return (
    <Chart
      label={`Share of tags reported, ${plural(finding.groups.length, "group", "groups")}`}
      height={300}
      option={option}
      data={{
        columns: ["group", "reported (%)", "lower (%)", "upper (%)", "tags"],
        rows: finding.groups.map(({ name, share }) => [name, share.value, share.lower, share.upper, share.n]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "return-rate",
  title: "Tags reported",
  group: "Survival and harvest",
  order: 2,
  Finding: ReturnRateFinding,
};
