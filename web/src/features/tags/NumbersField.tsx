import { useDeferredValue, useId } from "react";
import { useHere } from "@/session";
import { FileButton } from "@/ui/FileButton";
import { ErrorMessage } from "@/ui/Message";
import { plural } from "@/ui/words/format";
import { type Kind, type Taken, useNumbersOfFile, useTriedNumbers } from "./queries";

interface Props {
  kind: Kind;
  /** The batch that they go into; null for a new one. */
  batch: string | null;
  value: string;
  onChange: (numbers: string) => void;
}

/** Numbers of tags: typed, pasted, read one by one, or out of a file; what would become of them is said while they come. */
export function NumbersField({ kind, batch, value, onChange }: Props) {
  const { membership } = useHere();
  const id = useId();
  const file = useNumbersOfFile(membership.programme);
  const { data: taken, error } = useTriedNumbers(membership.programme, kind, batch, useDeferredValue(value));
  const read = (chosen: File) =>
    file.mutate({ kind, file: chosen }, { onSuccess: ([fullest]) => fullest && onChange(fullest.numbers) });
  return (
    <div className="grid gap-1">
      <label htmlFor={id} className="text-sm text-muted">
        Numbers: first and last, a list, or read one by one
      </label>
      <textarea
        id={id}
        rows={5}
        className="w-full rounded-sm border border-line bg-raised px-2.5 py-1.5 tabular-nums"
        placeholder={kind === "pit" ? "999 000000000201 - 999 000000000250" : "W1001 - W1100"}
        value={value}
        spellCheck={false}
        onChange={(event) => onChange(event.target.value)}
      />
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        <FileButton label="From a file" accept=".csv,.txt,.xlsx" onFile={read} />
        {file.data && file.data.length > 1 && (
          <select
            aria-label="Column of the file"
            className="min-h-[44px] rounded-sm border border-line bg-raised px-2"
            onChange={(event) => onChange(file.data[Number(event.target.value)]!.numbers)}
          >
            {file.data.map(({ name, n }, place) => (
              <option key={name} value={place}>
                {name}: {plural(n, "number")}
              </option>
            ))}
          </select>
        )}
        <p role="status" className={taken && !taken.new ? "text-signal" : ""}>
          {value.trim() && taken && !error && takenWords(taken)}
        </p>
      </div>
      {value.trim() && taken && taken.unread.length > 0 && !error && (
        <p className="text-sm text-signal">
          Not read: {taken.unread.map(({ text }) => `“${text}”`).join(", ")}
          {taken.unread_n > taken.unread.length && ` and ${taken.unread_n - taken.unread.length} more`}.{" "}
          {taken.unread[0]!.why}
        </p>
      )}
      {value.trim() && error && <ErrorMessage failure={error} />}
      {file.error && <ErrorMessage failure={file.error} />}
    </div>
  );
}

/** "100 new, W1001 to W1100; 2 known; 1 twice". */
export function takenWords({ new: fresh, first, last, known, elsewhere, twice, unread_n }: Taken): string {
  return [
    fresh ? `${fresh} new${fresh === 1 ? `, ${first}` : `, ${first} to ${last}`}` : "none new",
    known && `${known} known already`,
    elsewhere && `${elsewhere} read on fish before`,
    twice && `${twice} twice`,
    unread_n && `${unread_n} not read`,
  ]
    .filter(Boolean)
    .join("; ");
}
