import { useCallback, useState } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/session";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { formatDifference } from "@/ui/words/format";
import { ByChoice } from "../ByChoice";
import { Computing } from "../Computing";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { PairTable } from "../PairTable";
import { useConditionCompared } from "../queries";

type Finding = Schemas["ConditionCompared"];

/** Length-mass lines and relative weight of groups. */
function ConditionCompared({ selection, onChange }: FindingProps) {
  const { membership } = useHere();
  const { finding, job, error, isPlaceholderData, again } = useConditionCompared(membership.programme, selection);
  return (
    <>
      <ByChoice selection={selection} onChange={onChange} />
      {error ? (
        <div className="py-4">
          <ErrorMessage failure={error} />
        </div>
      ) : !finding ? (
        <Computing job={job} words="Comparing..." again={again} />
      ) : (
        <>
          <Sentence finding={finding} stale={isPlaceholderData} />
          <div className="grid grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-4 lg:grid-cols-2">
            {finding.groups.some(({ wr }) => wr) && (
              <Picture
                title="Mean relative weight by group"
                note={`with 95 % intervals; band: ${finding.benchmark.join(" to ")}`}
              >
                <Dots
                  rows={named(finding, ({ wr }) => wr)}
                  axisName="Relative weight Wr (%)"
                  band={[finding.benchmark[0]!, finding.benchmark[1]!]}
                />
              </Picture>
            )}
            <Picture
              title={`Mass at ${finding.at_mm[1]!.toFixed(0)} mm by group`}
              note="each by its own line, with 95 % intervals"
            >
              <Dots
                rows={named(finding, ({ masses }) => masses[1])}
                axisName={`Mass at ${finding.at_mm[1]!.toFixed(0)} mm (g)`}
              />
            </Picture>
            {finding.trend && (
              <div className="min-w-0 lg:col-span-2">
                <EstimateTable
                  caption={`Trend of the mass at ${finding.at_mm[1]!.toFixed(0)} mm`}
                  what="Change (%)"
                  rows={[finding.trend.slope]}
                  digits={1}
                />
              </div>
            )}
            <div className="min-w-0 lg:col-span-2">
              <PairTable
                caption="Mass at equal length, pairs"
                columns={finding.at_mm.map((at) => `at ${at.toFixed(0)} mm (%)`)}
                rows={finding.line_pairs.map(({ first, second, differences, p_holm }) => ({
                  first,
                  second,
                  differences: differences.map(({ value, lower, upper }) => formatDifference(value, lower, upper, 1)),
                  p: p_holm,
                }))}
              />
            </div>
            <RelativeWeightPairs finding={finding} />
            <div>
              <EstimateTable
                caption="Slope b of each line"
                what="Group"
                rows={named(finding, ({ slope }) => slope)}
                digits={3}
              />
            </div>
            <ByCategory finding={finding} />
          </div>
          <Footing finding={finding} selection={selection} kind="condition-compared" />
        </>
      )}
    </>
  );
}

const ALL = "all lengths";

/** Pairs of relative weight: of all fish, tested; of one size category, with their intervals alone. */
function RelativeWeightPairs({ finding }: { finding: Finding }) {
  const [category, setCategory] = useState(ALL);
  const categories = [...new Set(finding.category_pairs.map((each) => each.category))];
  if (!finding.wr_pairs.length) return null;
  const chosen = categories.includes(category) ? category : ALL;
  return (
    <div className="flex min-w-0 flex-col gap-2">
      {chosen === ALL ? (
        <PairTable
          caption="Relative weight, pairs"
          columns={["Difference of Wr (%)"]}
          rows={finding.wr_pairs.map(({ first, second, difference: { value, lower, upper }, p_holm }) => ({
            first,
            second,
            differences: [formatDifference(value, lower, upper, 1)],
            p: p_holm,
          }))}
        />
      ) : (
        <PairTable
          caption={`Relative weight of ${chosen}, pairs`}
          columns={["Difference of mean Wr (%)"]}
          rows={finding.category_pairs
            .filter((each) => each.category === chosen)
            .map(({ first, second, difference: { value, lower, upper } }) => ({
              first,
              second,
              differences: [formatDifference(value, lower, upper, 1)],
            }))}
        />
      )}
      <Choices
        label="Of"
        options={[ALL, ...categories].map((value) => ({ value, label: value }))}
        chosen={chosen}
        onChoose={setCategory}
      />
    </div>
  );
}

/** Mean relative weight of each group within each size category. */
function ByCategory({ finding }: { finding: Finding }) {
  const order = ["under stock", "S-Q", "Q-P", "P-M", "M-T", "T"];
  const held = order.filter((category) =>
    finding.groups.some(({ wr_by_category }) => wr_by_category.some(({ name }) => name === category)),
  );
  if (!held.length) return null;
  return (
    <div className="min-w-0 overflow-x-auto lg:col-span-2">
      <table className="w-full text-left">
        <caption className="pb-1 text-left font-semibold">Mean Wr by length category</caption>
        <thead className="text-sm text-muted">
          <tr>
            <th className="pr-3">Group</th>
            {held.map((category) => (
              <th key={category} className="pr-3 text-right">
                {category}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {finding.groups.map(({ name, wr_by_category }) => (
            <tr key={name} className="border-t border-line">
              <td className="py-1 pr-3 whitespace-nowrap">{name}</td>
              {held.map((category) => {
                const mean = wr_by_category.find((each) => each.name === category);
                return (
                  <td key={category} className="pr-3 text-right align-top whitespace-nowrap">
                    {mean ? mean.value?.toFixed(1) : "-"}
                    {mean && (
                      <span className="block text-sm text-muted">
                        {mean.lower !== null && mean.upper !== null
                          ? `${mean.lower.toFixed(0)} to ${mean.upper.toFixed(0)}, `
                          : ""}
                        n {mean.n}
                      </span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** An estimate of each group under the group's name. */
function named(
  finding: Finding,
  of: (group: Finding["groups"][number]) => Schemas["Estimate"] | null | undefined,
): Schemas["Estimate"][] {
  return finding.groups.flatMap((group) => {
    const estimate = of(group);
    return estimate ? [{ ...estimate, name: group.name, unit: "" }] : [];
  });
}

interface DotsProps {
  rows: Schemas["Estimate"][];
  axisName: string;
  band?: [number, number];
}

/** An estimate of each group as a dot with its interval. */
function Dots({ rows: given, axisName, band }: DotsProps) {
  const option = useCallback(
    (palette: Palette) => {
      const rows = given.toReversed();
      return {
        grid: { left: 110, right: 24, top: 10, bottom: 46 },
        tooltip: {
          formatter: ({ dataIndex }: { dataIndex: number }) => {
            const { name, value, lower, upper, n } = rows[dataIndex]!;
            return `${name}: ${value?.toFixed(1)} (${lower?.toFixed(1)} to ${upper?.toFixed(1)}), n = ${n}`;
          },
        },
        xAxis: axis(axisName, palette, { type: "value", scale: true }),
        yAxis: {
          ...axis("", palette, { type: "category", data: rows.map(({ name }) => name) }),
          axisTick: { show: false },
        },
        series: [
          {
            type: "custom",
            data: rows.map(({ value, lower, upper }, place) => [value, place, lower ?? value, upper ?? value]),
            encode: { x: [0, 2, 3], y: 1 },
            renderItem: (_: unknown, api: { value: (at: number) => number; coord: (point: number[]) => number[] }) => {
              const at = (x: number) => api.coord([x, api.value(1)]) as [number, number];
              const [x, y] = at(api.value(0));
              return {
                type: "group",
                children: [
                  {
                    type: "line",
                    shape: { x1: at(api.value(2))[0], y1: y, x2: at(api.value(3))[0], y2: y },
                    style: { stroke: palette.ink, lineWidth: 2 },
                  },
                  { type: "circle", shape: { cx: x, cy: y, r: 5 }, style: { fill: palette.data, stroke: palette.ink } },
                ],
              };
            },
            ...(band && {
              markArea: {
                silent: true,
                itemStyle: { color: palette.bands[3], opacity: 0.7 },
                data: [[{ xAxis: band[0] }, { xAxis: band[1] }]],
              },
            }),
          },
        ],
      };
    },
    [given, axisName, band],
  );
  return (
    <Chart
      label={`${axisName} of each group with its interval`}
      height={70 + 34 * given.length}
      option={option}
      data={{
        columns: ["group", axisName, "lower", "upper", "n"],
        rows: given.map(({ name, value, lower, upper, n }) => [name, value, lower, upper, n]),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "condition-compared",
  title: "Condition compared",
  group: "Size and condition",
  order: 5,
  Finding: ConditionCompared,
};
