import type { EChartsType } from "echarts/core";
import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { SPREADS, type Spread } from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { formatDay, formatInterval } from "@/ui/words/format";
import { Computing } from "../Computing";
import { attachHandles, cohortOption } from "../cohort-chart";
import { Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";
import { useCohorts } from "../queries";

type Finding = Schemas["Cohorts"];

/** Year-classes within the lengths; the handles above the picture may be dragged to where the means should start. */
function CohortsFinding({ selection, onChange }: FindingProps) {
  const { membership } = useHere();
  const { finding, job, error, isPlaceholderData, again } = useCohorts(membership.programme, selection);
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
        <Choices
          label="Cohorts"
          options={[{ value: 0, label: "by BIC" }, ...[1, 2, 3, 4, 5, 6].map((k) => ({ value: k, label: String(k) }))]}
          chosen={selection.start ? selection.start.length : (selection.k ?? 0)}
          onChoose={(k) => onChange({ k: k || undefined, start: undefined })}
        />
        <Choices
          label="Spread"
          options={Object.entries(SPREADS).map(([value, label]) => ({ value: value as Spread, label }))}
          chosen={selection.spread ?? "free"}
          onChoose={(spread) => onChange({ spread: spread === "free" ? undefined : spread })}
        />
        {selection.start && <Button onClick={() => onChange({ start: undefined })}>Reset starting values</Button>}
      </div>
      {error ? (
        <div className="py-4">
          <ErrorMessage failure={error} />
        </div>
      ) : !finding ? (
        <Computing job={job} words="Fitting..." again={again} />
      ) : (
        <>
          <Sentence finding={finding} stale={isPlaceholderData} />
          {finding.latest_visit && <OneVisit visit={finding.latest_visit} onChange={onChange} />}
          <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_24rem]">
            <Picture title="Lengths and fitted cohorts" note="drag a handle to start its mean elsewhere">
              <Curves finding={finding} onStart={(start) => onChange({ start, k: undefined })} />
            </Picture>
            <div className="flex flex-col gap-4">
              <table className="w-full text-left">
                <caption className="pb-1 text-left font-semibold">Cohorts</caption>
                <thead className="text-sm text-muted">
                  <tr>
                    <th>#</th>
                    <th className="text-right">Mean (mm, interval)</th>
                    <th className="text-right">SD (mm)</th>
                    <th className="text-right">Share (%, interval)</th>
                    <th className="text-right">n</th>
                  </tr>
                </thead>
                <tbody>
                  {finding.cohorts.map(({ mean, sd_mm, share, n }, place) => (
                    <tr key={mean.name} className="border-t border-line">
                      <td className="py-1">{place + 1}</td>
                      <td className="text-right">
                        {formatInterval(mean.value, mean.lower, mean.upper, 0)}
                        {(mean.lower === null || mean.upper === null) && (
                          <span className="font-semibold text-signal">, cannot be placed</span>
                        )}
                      </td>
                      <td className="text-right">{sd_mm.toFixed(0)}</td>
                      <td className="text-right">{formatInterval(share.value, share.lower, share.upper, 0)}</td>
                      <td className="text-right">{Math.round(n).toLocaleString("en")}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <table className="w-full text-left">
                <caption className="pb-1 text-left font-semibold">
                  How many: BIC (the smallest is chosen) and ICL (what can be told apart)
                </caption>
                <thead className="text-sm text-muted">
                  <tr>
                    <th>Number</th>
                    <th className="text-right">BIC</th>
                    <th className="text-right">ICL</th>
                  </tr>
                </thead>
                <tbody>
                  {finding.bic.map(({ k, bic, icl }) => (
                    <tr key={k} className={`border-t border-line ${k === finding.k ? "font-semibold" : "text-muted"}`}>
                      <td className="py-0.5">
                        {k} {k === 1 ? "cohort" : "cohorts"} {k === finding.k && "(shown)"}
                      </td>
                      <td className="text-right">{bic.toFixed(1)}</td>
                      <td className="text-right">{icl.toFixed(1)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </div>
          <Footing finding={finding} selection={selection} kind="cohorts" />
        </>
      )}
    </>
  );
}

/** Lengths of several visits are a mixture of dates as well as of ages. */
function OneVisit({ visit, onChange }: { visit: Schemas["Visit"]; onChange: FindingProps["onChange"] }) {
  const { first, last } = visit;
  return (
    <p className="mb-2 flex flex-wrap items-center gap-3 border-l-4 border-signal pl-3">
      <span>These lengths are of more than one visit, and a year-class grows between them.</span>
      <Button onClick={() => onChange({ first, last, start: undefined })}>
        Only the latest, {formatDay(first)} to {formatDay(last)}
      </Button>
    </p>
  );
}

function Curves({ finding, onStart }: { finding: Finding; onStart: (means: number[]) => void }) {
  const { at_mm, curves, cohorts, bin_mm } = finding;
  const option = useCallback((palette: Palette) => cohortOption(finding, palette), [finding]);
  const attach = useCallback(
    (chart: EChartsType, palette: Palette) => attachHandles(chart, palette, cohorts, onStart),
    [cohorts, onStart],
  );
  return (
    <Chart
      label={`Lengths with ${cohorts.length} fitted cohorts at ${cohorts.map(({ mean }) => mean.value?.toFixed(0)).join(", ")} mm`}
      height={370}
      option={option}
      data={{
        columns: ["length (mm)", ...curves.map((_, place) => `cohort ${place + 1} (fish per ${bin_mm} mm)`)],
        rows: at_mm.map((mm, at) => [mm, ...curves.map((curve) => curve[at]!)]),
      }}
      attach={attach}
    />
  );
}

export const screen: FindingScreen = {
  kind: "cohorts",
  title: "Cohorts",
  group: "Size and condition",
  order: 3,
  Finding: CohortsFinding,
};
