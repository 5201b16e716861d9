import { useCallback, useState } from "react";
import { ApiError, type Schemas } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { axis, Chart } from "@/ui/Chart";
import { Choices } from "@/ui/Choices";
import { Field } from "@/ui/Field";
import { isGoing, JobProgress } from "@/ui/JobProgress";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { whole } from "@/ui/words/format";
import { Numbers } from "../Numbers";
import { type Survey, useRehearsals, useRehearse } from "../queries";
import { FORMS, type Kind, readList } from "./rehearsal-forms";

type Done = Schemas["RehearsedDesign"];
type Row = Schemas["Rehearsal"];

/** The planned survey on simulated fish, many times, before the money is spent. */
export function RehearsalPart({ survey }: { survey: Survey }) {
  const { may } = useHere();
  const { data: rows } = useRehearsals(survey.id);
  const rehearse = useRehearse(survey.id);
  const [kind, setKind] = useState<Kind>(
    survey.question === "removal" || survey.question === "trend" ? survey.question : "marks",
  );
  const [designs, setDesigns] = useState<Partial<Record<Kind, Record<string, number>>>>({});
  const [run, setRun] = useState({ replicates: 1000, seed: 1 });
  const form = FORMS[kind];
  const design = designs[kind] ?? form.start(survey);
  const [values, setValues] = useState(form.sweep.values.join(" "));
  const going = rows?.some(({ job }) => isGoing(job)) ?? false;
  const start = (sweep: boolean) =>
    rehearse.mutate({
      kind,
      design,
      choice: sweep ? form.sweep.choice : "",
      values: sweep ? readList(values) : [],
      ...run,
      confirmed: false,
    });
  const refused = rehearse.error instanceof ApiError ? rehearse.error : null;
  return (
    <div className="grid items-start gap-x-6 gap-y-3 lg:grid-cols-[19rem_minmax(0,1fr)]">
      <section aria-label="What is rehearsed" className="flex flex-col gap-3">
        <Choices
          label="Survey"
          options={(Object.keys(FORMS) as Kind[]).map((each) => ({ value: each, label: each }))}
          chosen={kind}
          onChoose={(next) => {
            setKind(next);
            setValues(FORMS[next].sweep.values.join(" "));
          }}
        />
        <Numbers
          specs={form.specs}
          values={design}
          error={refused}
          onChange={(change) => setDesigns({ ...designs, [kind]: { ...design, ...change } as typeof design })}
        />
        <Numbers
          specs={[
            { name: "replicates", label: "Times" },
            { name: "seed", label: "Seed" },
          ]}
          values={run}
          error={refused}
          onChange={(change) => setRun({ ...run, ...change })}
        />
        <Field
          label={`Sweep over ${form.specs.find(({ name }) => name === form.sweep.choice)!.label.toLowerCase()}`}
          value={values}
          onChange={(event) => setValues(event.target.value)}
        />
        {may("plan") && (
          <div className="flex flex-wrap gap-2">
            <Button large look="ink" disabled={going || rehearse.isPending} onClick={() => start(false)}>
              Rehearse
            </Button>
            <Button
              large
              disabled={going || rehearse.isPending || readList(values).length < 2}
              onClick={() => start(true)}
            >
              Sweep
            </Button>
          </div>
        )}
        {rehearse.error && <ErrorMessage failure={rehearse.error} />}
      </section>
      <Rehearsals
        survey={survey.id}
        onRunAllTheSame={({ kind, design, choice, values, replicates, seed }) =>
          rehearse.mutate({ kind: kind as Kind, design, choice, values, replicates, seed, confirmed: true })
        }
      />
    </div>
  );
}

/** What came of the last rehearsals, and how far the one that is going is. */
function Rehearsals({ survey, onRunAllTheSame }: { survey: string; onRunAllTheSame: (row: Row) => void }) {
  const { data: rows, error, refetch } = useRehearsals(survey);
  const latest = rows?.[0];
  return (
    <div className="min-w-0">
      {error && <ErrorMessage failure={error} />}
      {latest?.job && isGoing(latest.job) && (
        <>
          <JobProgress job={latest.job} of="blocks of 100" onStop={refetch} />
          <Estimate row={latest} />
        </>
      )}
      {latest?.job?.state === "failed" && (
        <div className="mb-3">
          <JobProgress job={latest.job} of="" onStop={refetch} />
          <Estimate row={latest} />
          {latest.job.error?.code === "takes_long" && (
            <Button onClick={() => onRunAllTheSame(latest)}>Run it all the same</Button>
          )}
        </div>
      )}
      {rows?.length === 0 && (
        <p className="max-w-prose text-muted">
          Nothing is rehearsed yet. A thousand surveys on simulated fish show how far off an answer may be, and how
          often it is useless, before any money is spent.
        </p>
      )}
      {rows
        ?.filter(({ result }) => result)
        .slice(0, 4)
        .map((row) => (
          <Result key={row.id} row={row} />
        ))}
    </div>
  );
}

const span = (seconds: number) =>
  seconds < 100 ? `${seconds < 10 ? seconds.toFixed(1) : seconds.toFixed(0)} s` : `${Math.ceil(seconds / 60)} min`;

/** What it will take, from small trials before it starts: in all, and each point of a sweep. */
function Estimate({ row }: { row: Row }) {
  if (!row.estimate) return <p className="text-sm text-muted">Trying how long it takes...</p>;
  const all = row.estimate.reduce((sum, each) => sum + each, 0);
  return (
    <p className="text-sm text-muted">
      About {span(all)} on one process
      {row.estimate.length > 1 && `: ${row.estimate.map((each, at) => `${row.values[at]} ${span(each)}`).join(", ")}`}.
    </p>
  );
}

function Result({ row }: { row: Row }) {
  const designs = row.result!.designs;
  const kind = row.kind as Kind;
  return (
    <article className="mb-5 border-b border-line pb-4">
      <p className="text-sm text-muted">
        {FORMS[kind].label}; {whole(row.replicates)} surveys
        {designs.length > 1 && ` at each of ${designs.length} values`}; seed {row.seed};{" "}
        {Object.entries(row.design)
          .map(([name, value]) => `${name.replaceAll("_", " ")} ${value}`)
          .join(", ")}
      </p>
      <p className="mt-1 text-xl leading-snug" data-testid="rehearsed">
        {row.result!.sentence}
      </p>
      {designs.length === 1 ? <One done={designs[0]!} kind={kind} /> : <Sweep row={row} />}
    </article>
  );
}

const percent = (share: number) => `${(100 * share).toFixed(share > 0 && share < 0.1 ? 1 : 0)} %`;

function One({ done, kind }: { done: Done; kind: Kind }) {
  return (
    <>
      <ul className="mt-1 flex flex-wrap gap-x-6">
        <li>
          its 95 % interval holds the truth in {percent(done.coverage)}{" "}
          <span className="text-muted">
            ({percent(done.coverage_low)} to {percent(done.coverage_high)})
          </span>
        </li>
        <li>
          {kind === "trend"
            ? `tells the true direction in ${percent(done.within)}`
            : `within a quarter of the truth in ${percent(done.within)}`}
        </li>
        <li className={done.useless > 0.2 ? "font-semibold text-signal" : ""}>
          {done.useless > 0.2 && "! "}useless in {percent(done.useless)}
        </li>
        {done.cost > 0 && <li>costs {whole(done.cost)}</li>}
      </ul>
      <Answers done={done} kind={kind} />
    </>
  );
}

/** Ends of the axis on whole bins, so that their labels are round and fit. */
function ends({ edges, truth }: Done): { min: number; max: number } {
  const width = edges[1]! - edges[0]!;
  const whole = (bins: number) => Number((bins * width).toPrecision(9));
  return {
    min: Math.min(edges[0]!, whole(Math.floor(truth / width))),
    max: Math.max(edges.at(-1)!, whole(Math.ceil(truth / width))),
  };
}

function Answers({ done, kind }: { done: Done; kind: Kind }) {
  const option = useCallback(
    (palette: Palette) => ({
      grid: { left: 62, right: 28, top: 26, bottom: 46 },
      xAxis: axis(kind === "trend" ? "Estimated yearly change (share)" : "Estimated number of fish", palette, {
        type: "value",
        ...ends(done),
        splitLine: { show: false },
      }),
      yAxis: axis("Surveys", palette, { type: "value" }),
      series: [
        {
          type: "custom",
          encode: { x: [0, 1], y: 2 },
          data: done.counts.map((count, at) => [done.edges[at], done.edges[at + 1], count]),
          renderItem: (_: unknown, api: { value: (at: number) => number; coord: (point: number[]) => number[] }) => {
            const [left, top] = api.coord([api.value(0), api.value(2)]) as [number, number];
            const [right, bottom] = api.coord([api.value(1), 0]) as [number, number];
            return {
              type: "rect",
              shape: { x: left, y: top, width: Math.max(1, right - left - 1), height: bottom - top },
              style: { fill: palette.data },
            };
          },
          markLine: {
            silent: true,
            symbol: "none",
            label: { formatter: "truth", color: palette.signal, fontSize: 13 },
            lineStyle: { color: palette.signal, type: "solid", width: 2.5 },
            data: [{ xAxis: done.truth }],
          },
        },
      ],
    }),
    [done, kind],
  );
  return (
    <Chart
      label="Answers of the rehearsed surveys against the truth"
      height={240}
      option={option}
      data={{
        columns: ["from", "to", "surveys"],
        rows: done.counts.map((count, at) => [done.edges[at]!, done.edges[at + 1]!, count]),
      }}
    />
  );
}

function Sweep({ row }: { row: Row }) {
  const kind = row.kind as Kind;
  const designs = row.result!.designs;
  const costed = designs.some(({ cost }) => cost > 0);
  const name = FORMS[kind].specs.find((spec) => spec.name === row.choice)?.label ?? row.choice;
  const option = useCallback(
    (palette: Palette) => {
      const line = (key: "within" | "useless" | "coverage", label: string, type: string, color: string) => ({
        name: label,
        type: "line",
        symbolSize: 7,
        data: designs.map((each) => [each.design[row.choice], 100 * each[key]]),
        lineStyle: { color, width: 2.4, type },
        itemStyle: { color },
      });
      return {
        grid: { left: 58, right: 66, top: 14, bottom: 46 },
        xAxis: axis(name, palette, { type: "value", scale: true }),
        yAxis: [
          axis("Surveys (%)", palette, { type: "value", min: 0, max: 100 }),
          ...(costed
            ? [
                axis("Cost", palette, {
                  type: "value",
                  min: 0,
                  position: "right",
                  nameGap: 44,
                  splitLine: { show: false },
                }),
              ]
            : []),
        ],
        tooltip: { trigger: "axis" },
        series: [
          line("within", kind === "trend" ? "direction seen" : "within a quarter", "solid", palette.ink),
          line("useless", "useless", "dashed", palette.signal),
          line("coverage", "interval holds", "dotted", palette.muted),
          ...(costed
            ? [
                {
                  name: "cost",
                  type: "line",
                  yAxisIndex: 1,
                  showSymbol: false,
                  data: designs.map((each) => [each.design[row.choice], each.cost]),
                  lineStyle: { color: palette.data, width: 1.5 },
                  itemStyle: { color: palette.data },
                },
              ]
            : []),
        ],
      };
    },
    [designs, row, name, costed, kind],
  );
  return (
    <>
      <p className="text-sm text-muted">
        Solid: {kind === "trend" ? "sees the true direction" : "within a quarter of the truth"}. Dashed: useless.
        Dotted: the interval holds the truth.{costed && " Thin: cost, on the right."}
      </p>
      <Chart
        label={`Rehearsed surveys by ${name.toLowerCase()}`}
        height={280}
        option={option}
        data={{
          columns: [row.choice, "within", "useless", "coverage", "bias", "low", "high", "cost"],
          rows: designs.map((each) => [
            each.design[row.choice]!,
            each.within,
            each.useless,
            each.coverage,
            each.bias,
            each.low,
            each.high,
            each.cost,
          ]),
        }}
      />
    </>
  );
}
