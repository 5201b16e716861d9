import { Link } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { whole } from "@/ui/words/format";
import { setMissing, setWord } from "./answers";
import { NewSpecies } from "./NewSpecies";
import type { Answers, FileRow } from "./queries";

interface Props {
  row: FileRow;
  kinds: Schemas["ColumnKind"][];
  answers: Answers;
  /** A species that the file names may join the list here. */
  mayAddSpecies?: boolean;
  /** Whether the answers are still those that were tried. */
  current: boolean;
  onChange: (answers: Answers) => void;
  onBringIn: () => void;
  onTakeBack: () => void;
}

/** What a try found, or what came in: how many, what is new, which words wait for a person. */
export function Outcome({
  row,
  kinds,
  answers,
  current,
  onChange,
  onBringIn,
  onTakeBack,
  mayAddSpecies = false,
}: Props) {
  const result = row.result!;
  const stored = row.state === "in";
  const back = row.state === "back";
  const fresh = [
    count(result.new.sites, "site", "sites"),
    count(result.new.outings, "outing", "outings"),
    count(result.new.runs, "run", "runs"),
    count(result.new.fish, "marked fish", "marked fish"),
  ].filter(Boolean);
  return (
    <div className="mt-2 border-t border-line pt-3">
      <p className="text-lg leading-snug" data-testid="outcome">
        {back
          ? "Taken back: its fish are out of the record. Import again to restore them."
          : `${whole(result.good)} fish ${stored ? "came" : "would come"} in`}
        {!back && result.there > 0 && `, ${whole(result.there)} are in the record already`}
        {!back && result.bad > 0 && `, ${count(result.bad, "line", "lines")} cannot be read`}
        {!back && "."}
      </p>
      {!back && fresh.length > 0 && <p className="text-muted">New with them: {fresh.join(", ")}.</p>}
      {result.asks.map((ask) => (
        <div key={ask.field} className="mt-2 border-l-4 border-signal pl-3">
          <p>{ask.message}</p>
          <label className="flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={answers.mixed_dates ?? false}
              onChange={(event) => onChange({ ...answers, mixed_dates: event.target.checked })}
            />
            {answers.date_order === "month" ? "Month first" : "Day first"} holds; leave the others out
          </label>
        </div>
      ))}
      {!stored && !back && <Groups {...{ result, answers, onChange }} />}
      {!stored && <Words {...{ result, kinds, answers, onChange, mayAddSpecies }} />}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {!stored && (
          <Button
            large
            look={current ? "ink" : "plain"}
            disabled={!current || result.good === 0 || result.asks.length > 0}
            onClick={onBringIn}
          >
            {back ? "Import again" : `Import ${whole(result.good)} fish`}
          </Button>
        )}
        {!current && !stored && <span className="text-sm text-muted">Changed since: try it again first.</span>}
        {stored && (
          <Link to="/records" className="underline underline-offset-4">
            See them in the register
          </Link>
        )}
        {stored && <Button onClick={onTakeBack}>Take all of it back</Button>}
      </div>
    </div>
  );
}

/** Words of the file that are not known: what they mean is said once and remembered. */
function Words({
  result,
  kinds,
  answers,
  onChange,
  mayAddSpecies,
}: {
  result: Schemas["Result"];
  kinds: Schemas["ColumnKind"][];
  answers: Answers;
  onChange: (answers: Answers) => void;
  mayAddSpecies: boolean;
}) {
  const [adding, setAdding] = useState<string | null>(null);
  const unknown = Object.entries(result.unknown).flatMap(([key, words]) => words.map((each) => ({ key, ...each })));
  if (!unknown.length) return null;
  return (
    <section aria-label="Words not known" className="mt-3">
      <h2 className="font-semibold">What do these words mean?</h2>
      {unknown.map(({ key, word, n }) => {
        const kind = kinds.find((each) => each.key === key);
        return (
          <label key={`${key} ${word}`} className="mt-1 flex items-center justify-between gap-3">
            <span>
              {word}{" "}
              <span className="text-sm text-muted">{`${kind?.label.toLowerCase()}, ${count(n, "line", "lines")}`}</span>
            </span>
            <select
              className="min-h-9 w-44 rounded-sm border border-signal bg-raised px-2"
              value={
                answers.missing?.includes(word.toLowerCase())
                  ? NO_VALUE
                  : (answers.words?.[key]?.[word.toLowerCase()] ?? "")
              }
              onChange={({ target }) => {
                if (target.value === NO_VALUE) onChange(setMissing(answers, [...(answers.missing ?? []), word]));
                else if (target.value === NEW) setAdding(word);
                else onChange(setWord(answers, key, word, target.value));
              }}
            >
              <option value="">leave them out</option>
              <option value={NO_VALUE}>no value</option>
              {key === "species" && mayAddSpecies && <option value={NEW}>add a species...</option>}
              {Object.entries(kind?.choices ?? {}).map(([code, label]) => (
                <option key={code} value={code}>
                  {label.replaceAll("_", " ")}
                </option>
              ))}
            </select>
          </label>
        );
      })}
      {adding !== null && (
        <NewSpecies
          word={adding}
          onClose={() => setAdding(null)}
          onAdded={(code) => {
            onChange(setWord(answers, "species", adding, code));
            setAdding(null);
          }}
        />
      )}
    </section>
  );
}

/** Choices beside the meanings of a word. */
const NO_VALUE = " no value";
const NEW = " new";

/** Why lines cannot be read, the most frequent reason first; where one answer settles all of a kind, by one touch. */
function Groups({ result, answers, onChange }: Pick<Props, "answers" | "onChange"> & { result: Schemas["Result"] }) {
  const groups = (result.groups ?? []).filter(({ code }) => code !== "word_unknown");
  if (!groups.length) return null;
  return (
    <ul aria-label="Reasons" className="mt-2 grid gap-2">
      {groups.map(({ code, column, n, reason, cells }) => (
        <li key={`${code} ${column}`} className="border-l-4 border-signal pl-3">
          <p>
            <strong>{count(n, "line", "lines")}</strong>
            {column && `, ${column}`}: {SHORT[code] ?? reason}
          </p>
          {EMPTIED.has(code) && cells.length > 0 && (
            <Button onClick={() => onChange(setMissing(answers, [...(answers.missing ?? []), ...cells]))}>
              Treat {cells.slice(0, 3).join(", ")}
              {cells.length > 3 && ` and ${cells.length - 3} more`} as no value
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Reasons in short, where one answer above settles them. */
const SHORT: Record<string, string> = {
  year_short: "year of two digits; choose the century above",
  date_order_unknown: "day or month first; choose above",
};
/** Cells that hold a word where a figure belongs may hold nothing. */
const EMPTIED = new Set([
  "number_unreadable",
  "length_unreadable",
  "mass_unreadable",
  "date_unreadable",
  "time_unreadable",
]);

const count = (n: number, one: string, many: string) => (n === 0 ? "" : `${whole(n)} ${n === 1 ? one : many}`);
