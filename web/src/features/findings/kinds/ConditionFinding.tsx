import { useState } from "react";
import { FishSheet } from "@/features/records";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { formatInterval } from "@/ui/words/format";
import { Computing } from "../Computing";
import { LengthMassChart, RelativeWeightChart, ResidualChart } from "../ConditionCharts";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { OverChoice } from "../OverChoice";
import { useConditionFinding } from "../queries";

function ConditionFinding({ selection, onChange }: FindingProps) {
  const { membership } = useHere();
  const [opened, setOpened] = useState<string | null>(null);
  const { finding, job, error, isPlaceholderData, again } = useConditionFinding(membership.programme, selection);
  if (error)
    return (
      <div className="py-4">
        <ErrorMessage failure={error} />
      </div>
    );
  if (!finding) return <Computing job={job} words="Weighing..." again={again} />;
  const drawn =
    finding.n_drawn < finding.n
      ? `${finding.n_drawn.toLocaleString("en")} of ${finding.n.toLocaleString("en")} drawn, every flagged one among them`
      : `n = ${finding.n.toLocaleString("en")}`;
  const [intercept, slope] = finding.line;
  return (
    <>
      <Sentence finding={finding} stale={isPlaceholderData} />
      <div className="grid gap-x-6 gap-y-4 lg:grid-cols-2">
        {finding.wr && (
          <Picture title="Relative weight against length" note={`band: ${finding.benchmark.join(" to ")}`}>
            <RelativeWeightChart finding={finding} onOpen={setOpened} />
          </Picture>
        )}
        <Picture title="Mass against length" note={drawn}>
          <LengthMassChart finding={finding} onOpen={setOpened} />
        </Picture>
        <Picture
          title="Residuals"
          note={`${finding.n_flagged} beyond ±3, ringed, none dropped; touch a point to open that fish`}
        >
          <ResidualChart finding={finding} onOpen={setOpened} />
        </Picture>
        <div className="flex flex-col gap-4">
          <OverChoice over={selection.over} anyYear onChange={onChange} />
          {finding.wr && (
            <EstimateTable
              caption="Mean relative weight (Wr)"
              what="Length category"
              rows={[...finding.wr_by_category, finding.wr]}
              digits={1}
            />
          )}
          {finding.wr_trend && (
            <p className="text-sm text-muted">
              Change of Wr with every 100 mm:{" "}
              {formatInterval(finding.wr_trend.value, finding.wr_trend.lower, finding.wr_trend.upper, 1)}.
              {finding.wr_undefined ? ` ${finding.wr_undefined} fish are below the equation's shortest length.` : ""}
            </p>
          )}
          <table className="w-full text-left">
            <caption className="pb-1 text-left font-semibold">Length-mass line: log₁₀ g = a + b log₁₀ mm</caption>
            <tbody>
              <Row name="Intercept a" value={formatInterval(intercept!.value, intercept!.lower, intercept!.upper, 3)} />
              <Row name="Slope b" value={formatInterval(slope!.value, slope!.lower, slope!.upper, 3)} />
              <Row
                name="Test of b = 3"
                value={`t = ${finding.isometry.t?.toFixed(1) ?? "?"}, p ${finding.isometry.p < 0.001 ? "< 0.001" : `= ${finding.isometry.p.toFixed(3)}`}`}
              />
              <Row
                name="Residual SD (log₁₀ g), r²"
                value={`${finding.residual_sd.toFixed(4)}, ${finding.r_squared?.toFixed(4) ?? "?"}`}
              />
              <Row
                name="Lengths fitted (mm)"
                value={`${finding.length_range_mm[0]} to ${finding.length_range_mm[1]}`}
              />
            </tbody>
          </table>
        </div>
      </div>
      <Footing finding={finding} selection={selection} kind="condition" />
      {opened && <FishSheet capture={opened} onClose={() => setOpened(null)} />}
    </>
  );
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="py-1 pr-3 font-normal">
        {name}
      </th>
      <td className="text-right">{value}</td>
    </tr>
  );
}

export const screen: FindingScreen = {
  kind: "condition",
  title: "Condition",
  group: "Size and condition",
  order: 4,
  Finding: ConditionFinding,
};
