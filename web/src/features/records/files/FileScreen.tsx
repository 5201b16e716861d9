import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { isGoing, JobProgress } from "@/ui/JobProgress";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { whole } from "@/ui/words/format";
import { RecordsTabs } from "../RecordsTabs";
import { ColumnTable } from "./ColumnTable";
import { Mappings } from "./Mappings";
import { Outcome } from "./Outcome";
import { type Answers, type FileRow, useFile, useFiles, useForget, useStep } from "./queries";
import { Rejects } from "./Rejects";
import { WholeFile } from "./WholeFile";

const route = getRouteApi("/records/files/$file");

/** One file on its way into the record: what its columns are, what would come in, and bringing it in. */
export function FileScreen() {
  const { file } = route.useParams();
  const { membership } = useHere();
  const { data: row, error } = useFile(file);
  const { data: files, error: listError } = useFiles(membership.programme);
  return (
    <main className="px-4 py-3">
      <RecordsTabs />
      {(error ?? listError) && <ErrorMessage failure={(error ?? listError)!} />}
      {row && files && <Reading key={row.id + (row.state === "reading")} row={row} kinds={files.kinds} />}
      {!row && !error && <p className="py-4 text-muted">Reading...</p>}
    </main>
  );
}

function Reading({ row, kinds }: { row: FileRow; kinds: Parameters<typeof ColumnTable>[0]["kinds"] }) {
  const navigate = useNavigate();
  const { may } = useHere();
  const [answers, setAnswers] = useState<Answers>(row.answers);
  const [tried, setTried] = useState<Answers | null>(row.result ? row.answers : null);
  const step = useStep(row.id);
  const forget = useForget(row.id);
  const going = isGoing(row.job) || step.isPending;
  const stored = row.state === "in" || row.state === "back";
  const change = (next: Answers) => {
    step.reset();
    setAnswers(next);
  };
  const tryIt = () => {
    setTried(answers);
    step.mutate({ what: "try", answers });
  };
  const throwAway = async () => {
    await forget.mutateAsync();
    navigate({ to: "/records/files" });
  };
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 py-2">
        <h1 className="text-xl font-semibold">{row.file_name}</h1>
        <span className="text-muted">
          {row.preview.how}
          {row.state !== "reading" && `; about ${whole(row.preview.about)} lines`}
        </span>
        <span className="ml-auto flex items-center gap-3">
          {!stored && (
            <Button onClick={throwAway} disabled={going}>
              Throw the file away
            </Button>
          )}
          <Link to="/records/files" className="underline underline-offset-4">
            All files
          </Link>
        </span>
      </div>
      {row.preview.notices.map((notice) => (
        <p key={notice} className="mb-1 max-w-prose border-l-4 border-line pl-3 text-muted">
          {notice}
        </p>
      ))}
      {row.state === "reading" && row.job && (
        <div className="max-w-prose py-2">
          <p className="mb-2">A large workbook: it is looked into first. You may leave this page meanwhile.</p>
          <JobProgress job={row.job} of="steps" onStop={() => notify("Stopping.")} />
          {forget.error && <ErrorMessage failure={forget.error} />}
        </div>
      )}
      {row.state !== "reading" && (
        <div className="grid items-start gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
          <div className="min-w-0">
            <fieldset disabled={going || row.state === "in"}>
              <ColumnTable row={row} kinds={kinds} answers={answers} onChange={change} />
            </fieldset>
            {!going && row.state !== "back" && <Rejects row={row} />}
          </div>
          <section aria-label="The whole file" className="lg:sticky lg:top-2">
            <fieldset disabled={going || row.state === "in"}>
              <WholeFile row={row} kinds={kinds} answers={answers} onChange={change} />
              {row.state !== "in" && <Mappings answers={answers} onChange={change} />}
            </fieldset>
            <div className="mt-3 flex flex-wrap items-center gap-3">
              {row.state !== "in" && (
                <Button large look={tried === answers ? "plain" : "ink"} disabled={going} onClick={tryIt}>
                  {tried ? "Try it again" : "Try it, store nothing"}
                </Button>
              )}
            </div>
            <div className="mt-3 flex flex-col gap-2">
              {step.error && <ErrorMessage failure={step.error} />}
              {forget.error && <ErrorMessage failure={forget.error} />}
              {row.job && !step.isPending && (
                <JobProgress job={row.job} of="lines" onStop={() => notify("Stopping.")} />
              )}
            </div>
            {row.result && !going && row.job?.state === "done" && (
              <Outcome
                row={row}
                kinds={kinds}
                answers={answers}
                current={tried === answers}
                mayAddSpecies={may("choose_species")}
                onChange={change}
                onBringIn={() => step.mutate({ what: "bring-in" })}
                onTakeBack={() => step.mutate({ what: "take-back" })}
              />
            )}
          </section>
        </div>
      )}
    </>
  );
}
