import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/app/session";
import { axis, Chart, type Palette } from "@/ui/Chart";
import { ErrorMessage } from "@/ui/Message";
import { ByChoice } from "./ByChoice";
import { Computing } from "./Computing";
import { EstimateTable, Footing, Picture, Sentence } from "./FindingParts";
import { PairTable } from "./PairTable";
import { useConditionCompared } from "./queries";
import type { Selection } from "./selection";

type Finding = Schemas["ConditionCompared"];

interface Props {
  selection: Selection & { species: string };
  onChange: (part: Partial<Selection>) => void;
}

/** Length-mass lines and relative weight of groups. */
export function ConditionCompared({ selection, onChange }: Props) {
  const { membership } = useHere();
  const { finding, job, error, isPlaceholderData, again } = useConditionCompared(membership.programme, selection);
  return (
    <>
      <ByChoice by={selection.by ?? "year"} onChoose={(by) => onChange({ by: by === "year" ? undefined : by })} />
      {error ? (
        <div className="py-4">
          <ErrorMessage failure={error} />
        </div>
      ) : !finding ? (
        <Computing job={job} words="Comparing..." again={again} />
      ) : (
        <>
          <Sentence finding={finding} stale={isPlaceholderData} />
          <div className="grid gap-x-6 gap-y-4 lg:grid-cols-2">
            {finding.groups.some(({ wr }) => wr) && (
              <Picture title="Mean relative weight by group" note="with 95 % intervals; band: 95 to 105">
                <Dots finding={finding} of="wr" axisName="Relative weight Wr (%)" band={[95, 105]} />
              </Picture>
            )}
            {finding.parallel && (
              <Picture
                title={`Mass at ${finding.at_mm.toFixed(0)} mm by group`}
                note="by one common slope, with 95 % intervals"
              >
                <Dots finding={finding} of="adjusted" axisName={`Mass at ${finding.at_mm.toFixed(0)} mm (g)`} />
              </Picture>
            )}
            <div className="flex flex-col gap-4">
              <EstimateTable caption="Slope b of each line" what="Group" rows={named(finding, "slope")} digits={3} />
              <table className="w-full text-left">
                <caption className="pb-1 text-left font-semibold">Tests</caption>
                <tbody>
                  <Test name="Slopes alike" test={finding.slopes} />
                  {finding.heights && <Test name="Heights alike, given one slope" test={finding.heights} />}
                  {finding.wr_test && (
                    <tr className="border-t border-line">
                      <th scope="row" className="py-1 pr-3 font-normal">
                        Relative weight alike (Kruskal-Wallis)
                      </th>
                      <td className="text-right">
                        H = {finding.wr_test.h.toFixed(1)}, df {finding.wr_test.df}, p {formatP(finding.wr_test.p)}
                      </td>
                    </tr>
                  )}
                </tbody>
              </table>
            </div>
            <div className="flex flex-col gap-4">
              <PairTable
                caption="Mass at equal length, pairs"
                unit="%"
                rows={finding.line_pairs.map((pair) => ({
                  ...pair,
                  difference: `${pair.difference >= 0 ? "+" : ""}${pair.difference.toFixed(1)}`,
                  p: pair.p_holm,
                }))}
              />
              <PairTable
                caption="Relative weight, pairs"
                unit="medians"
                rows={finding.wr_pairs.map((pair) => ({
                  ...pair,
                  difference: `${pair.difference >= 0 ? "+" : ""}${pair.difference.toFixed(1)}`,
                  p: pair.p_holm,
                }))}
              />
            </div>
          </div>
          <Footing finding={finding} selection={selection} kind="condition-compared" />
        </>
      )}
    </>
  );
}

function Test({ name, test }: { name: string; test: Schemas["FTest"] }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="py-1 pr-3 font-normal">
        {name}
      </th>
      <td className="text-right">
        F = {test.f?.toFixed(1) ?? "?"}, df {test.df.join(", ")}, p {formatP(test.p)}
      </td>
    </tr>
  );
}

const formatP = (p: number) => (p < 0.001 ? "< 0.001" : `= ${p.toFixed(3)}`);

function named(finding: Finding, what: "slope" | "wr" | "adjusted"): Schemas["Estimate"][] {
  return finding.groups.flatMap((group) => {
    const estimate = group[what];
    return estimate ? [{ ...estimate, name: group.name, unit: "" }] : [];
  });
}

interface DotsProps {
  finding: Finding;
  of: "wr" | "adjusted";
  axisName: string;
  band?: [number, number];
}

/** An estimate of each group as a dot with its interval. */
function Dots({ finding, of, axisName, band }: DotsProps) {
  const option = useCallback(
    (palette: Palette) => {
      const rows = named(finding, of).toReversed();
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
    [finding, of, axisName, band],
  );
  return (
    <Chart
      label={`${axisName} of each group with its interval`}
      height={70 + 34 * finding.groups.length}
      option={option}
      data={{
        columns: ["group", axisName, "lower", "upper", "n"],
        rows: named(finding, of).map(({ name, value, lower, upper, n }) => [name, value, lower, upper, n]),
      }}
    />
  );
}
