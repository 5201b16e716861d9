import { Link, useNavigate } from "@tanstack/react-router";
import { type DragEvent, useRef, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay, whole } from "@/ui/words/format";
import { RecordsTabs } from "../RecordsTabs";
import { LARGEST_MB, useFiles, useUpload } from "./queries";

const STATES = {
  reading: "being read",
  taken: "not tried yet",
  tried: "tried, nothing stored",
  in: "in the record",
  back: "taken back",
};

/** Files that were brought in or wait for it, and the place where a new one goes. */
export function FilesScreen() {
  const { membership } = useHere();
  const { data, error } = useFiles(membership.programme);
  return (
    <main className="px-4 py-3">
      <RecordsTabs />
      <DropHere programme={membership.programme} />
      {error && <ErrorMessage failure={error} />}
      {data && data.imports.length === 0 && (
        <Empty>No imports yet. A table with one line per fish is enough; columns may be in any order and unit.</Empty>
      )}
      {data && data.imports.length > 0 && (
        <table className="mt-4 w-full max-w-4xl text-left">
          <thead className="border-b border-ink">
            <tr>
              <th className="py-1">File</th>
              <th>Taken</th>
              <th>By</th>
              <th className="pr-6 text-right">Fish</th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            {data.imports.map((row) => (
              <tr key={row.id} className="border-b border-line">
                <td className="max-w-96 truncate py-2">
                  <Link to="/records/files/$file" params={{ file: row.id }} className="underline underline-offset-4">
                    {row.file_name}
                  </Link>
                </td>
                <td>{formatDay(row.made_at.slice(0, 10))}</td>
                <td>{row.person}</td>
                <td className="pr-6 text-right">{whole(row.good)}</td>
                <td>{STATES[row.state]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}

function DropHere({ programme }: { programme: string }) {
  const navigate = useNavigate();
  const upload = useUpload(programme);
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    const row = await upload.mutateAsync(file).catch(() => null); // the refusal is shown below
    if (input.current) input.current.value = ""; // the same file may be chosen again, mended
    if (row) navigate({ to: "/records/files/$file", params: { file: row.id } });
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take(event.dataTransfer.files[0]);
  };
  return (
    <section
      aria-label="A new file"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`mt-3 max-w-4xl border-2 border-dashed p-5 ${over ? "border-ink bg-wash" : "border-line"}`}
    >
      <div className="flex flex-wrap items-center gap-4">
        <Button large look="ink" disabled={upload.isPending} onClick={() => input.current?.click()}>
          {upload.isPending ? "Reading the file..." : "Choose a file of measured fish"}
        </Button>
        <span className="text-muted">or drop it here: CSV, XLSX or a Data Package, up to {LARGEST_MB} MB</span>
        <input
          ref={input}
          type="file"
          className="sr-only"
          tabIndex={-1}
          aria-label="File of measured fish"
          accept=".csv,.txt,.tsv,.xlsx,.zip"
          onChange={(event) => take(event.target.files?.[0])}
        />
      </div>
      <p className="mt-2 max-w-prose text-sm text-muted">
        Nothing reaches the record before you have seen what would come in. Lines that cannot be read wait in a file of
        their own, with the reason. The same fish are never added twice.
      </p>
      {upload.error && (
        <div className="mt-3">
          <ErrorMessage failure={upload.error} />
        </div>
      )}
    </section>
  );
}
