import { useCallback, useState } from "react";
import { ApiError, type Schemas } from "@/api/client";
import { changed, type Selection, SelectionPanel, useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { axis, Chart } from "@/ui/Chart";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { whole } from "@/ui/words/format";
import { Numbers } from "../Numbers";
import { type Survey, useEnough, useSurveyStep } from "../queries";

/** How many sites, fish, marks; from past data that a selection chooses, or typed. */
/** A rate to as many digits as it is worth. */
const short = (rate: number) => rate.toFixed(rate >= 100 ? 0 : rate >= 10 ? 1 : 2);

export function EnoughPart({ survey }: { survey: Survey }) {
  const { may } = useHere();
  const step = useSurveyStep(survey.id);
  const { data: options } = useSelectionOptions(survey.programme);
  const { selection } = survey.pilot;
  return (
    <>
      {options && may("plan") && (
        <details className="mb-3">
          <summary className="cursor-pointer font-semibold">Past data to start from</summary>
          <div className="mt-2 max-w-sm">
            <SelectionPanel
              options={options}
              selection={selection}
              onChange={(part) =>
                step.mutate({ what: "change", body: { parts: { pilot: pilotWith(selection, part) } } })
              }
            />
          </div>
          {step.error && <ErrorMessage failure={step.error} />}
        </details>
      )}
      <Answers key={JSON.stringify(selection)} survey={survey} />
    </>
  );
}

function pilotWith(selection: Selection, part: Partial<Selection>): NonNullable<Survey["parts"]["pilot"]> {
  const { species = "", ...chosen } = changed(selection, part);
  return { species, ...chosen };
}

function Answers({ survey }: { survey: Survey }) {
  const { membership, may } = useHere();
  const step = useSurveyStep(survey.id);
  const { pilot } = survey;
  const [asked, setAsked] = useState<Record<string, number>>({
    catch_mean: round(pilot.catch_mean ?? 20),
    catch_variance: round(pilot.catch_variance ?? 200),
    cv: survey.parts.precision?.cv ?? 0.2,
    psd: round(100 * (pilot.psd ?? 0.6)),
    psd_half: survey.parts.precision?.psd_half ?? 8,
    psd_other: Math.max(5, round(100 * (pilot.psd ?? 0.6) - 15)),
    sd_mm: round(pilot.sd_mm ?? 90),
    mean_half_mm: 10,
    death_low: 5,
    death_high: 15,
    population: 5000,
  });
  const { data: enough, error } = useEnough(membership.programme, asked);
  return (
    <div className="grid items-start gap-x-6 gap-y-3 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <section aria-label="What is asked">
        <p className="mb-2 text-sm text-muted">
          {pilot.runs
            ? `From ${whole(pilot.runs)} past runs and ${whole(pilot.fish)} measured ${pilot.species}${pilot.cpue === null ? "" : `: ${short(pilot.cpue)} per ${pilot.per} (${short(pilot.cpue_low!)}-${short(pilot.cpue_high!)})`}. Type over them.`
            : "No past runs of this selection: type what you expect."}
        </p>
        <Numbers
          specs={[
            { name: "catch_mean", label: "Catch a site, mean", unit: "fish" },
            { name: "catch_variance", label: "its variance" },
            { name: "cv", label: "Wanted CV of it" },
            { name: "psd", label: "PSD expected" },
            { name: "psd_half", label: "PSD to within ±" },
            { name: "psd_other", label: "told from a PSD of" },
            { name: "sd_mm", label: "SD of lengths", unit: "mm" },
            { name: "mean_half_mm", label: "Mean to within ±", unit: "mm" },
            { name: "death_low", label: "Deaths of", unit: "%" },
            { name: "death_high", label: "told from", unit: "%" },
            { name: "population", label: "Assumed population size" },
          ]}
          values={asked}
          error={error instanceof ApiError ? error : null}
          onChange={(change) => {
            setAsked({ ...asked, ...change } as typeof asked);
            // how sure it is to be is the plan's: the deck says when that is reached
            const precision = Object.fromEntries(
              Object.entries(change).filter(([name]) => name === "psd_half" || name === "cv"),
            );
            if (may("plan") && Object.keys(precision).length)
              step.mutate({ what: "change", body: { parts: { precision } } });
          }}
        />
        {(error ?? step.error) && <ErrorMessage failure={(error ?? step.error)!} />}
      </section>
      {enough && (
        <div className="min-w-0">
          <dl className="grid gap-x-6 md:grid-cols-2" data-testid="enough">
            <Answer n={enough.sites} what={`sites for a CV of ${(100 * asked.cv!).toFixed(0)} %`} />
            <Answer n={enough.fish_psd} what={`stock-length fish for a PSD to within ±${asked.psd_half}`} />
            <Answer n={enough.fish_mean} what={`measured fish for a mean to within ±${asked.mean_half_mm} mm`} />
            <Answer
              n={enough.fish_difference}
              what={`fish in each sample to tell a PSD of ${asked.psd} from ${asked.psd_other} (power 80 %)`}
            />
            <Answer
              n={enough.fish_mortality}
              what={`handled fish to tell ${asked.death_low} % deaths from ${asked.death_high} % (power 80 %)`}
            />
          </dl>
          <h2 className="mt-4 font-semibold">Marks and catch, for {whole(asked.population!)} fish</h2>
          <p className="text-sm text-muted">
            Any point on a curve gives Petersen's estimate within that share of the truth in 95 of 100 surveys (Robson
            and Regier 1964). Move along a curve to trade marks for catch.
          </p>
          <Nomogram enough={enough} />
        </div>
      )}
    </div>
  );
}

function Answer({ n, what }: { n: number; what: string }) {
  return (
    <div className="flex items-baseline gap-3 border-t border-line py-1.5">
      <dt className="order-2">{what}</dt>
      <dd className="w-20 text-right text-2xl font-semibold">{whole(n)}</dd>
    </div>
  );
}

const DASHES = ["solid", "dashed", "dotted"];

function Nomogram({ enough }: { enough: Schemas["Enough"] }) {
  const { marks, curves } = enough;
  const option = useCallback(
    (palette: Palette) => {
      const known = curves.flatMap(({ catch: values }) => values.filter((value) => value !== null));
      return {
        grid: { left: 66, right: 150, top: 12, bottom: 46 },
        xAxis: axis("Fish marked", palette, {
          type: "log",
          min: Math.min(...marks),
          max: Math.max(...marks),
          minorSplitLine: { show: true, lineStyle: { color: palette.line, opacity: 0.35 } },
        }),
        yAxis: axis("Fish to look at", palette, {
          type: "log",
          min: 10 ** Math.floor(Math.log10(Math.min(...known, 100))),
          nameGap: 48,
          minorSplitLine: { show: true, lineStyle: { color: palette.line, opacity: 0.35 } },
        }),
        tooltip: { trigger: "axis" },
        series: curves.map(({ name, accuracy, catch: values }, place) => ({
          name: `±${100 * accuracy} %`,
          type: "line",
          showSymbol: false,
          data: values.map((value, at) => [marks[at], value]),
          lineStyle: { color: palette.ink, width: 2.2, type: DASHES[place] },
          itemStyle: { color: palette.ink },
          endLabel: {
            show: true,
            formatter: `±${100 * accuracy} %, ${name}`,
            color: palette.ink,
            fontSize: 12,
            width: 140,
            overflow: "break",
          },
        })),
      };
    },
    [marks, curves],
  );
  return (
    <Chart
      label="Marks and catch for three accuracies"
      height={360}
      option={option}
      data={{
        columns: ["marks", ...curves.map(({ accuracy }) => `catch_within_${100 * accuracy}_percent`)],
        rows: marks.map((each, at) => [each, ...curves.map(({ catch: values }) => values[at] ?? null)]),
      }}
    />
  );
}

const round = (value: number) => Number(value.toPrecision(3));
