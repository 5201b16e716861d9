import type { Schemas } from "@/api/client";
import { setKind, setUnit } from "./answers";
import type { Answers, FileRow } from "./queries";

interface Props {
  row: FileRow;
  kinds: Schemas["ColumnKind"][];
  answers: Answers;
  onChange: (answers: Answers) => void;
}

const BOX = "min-h-9 rounded-sm border bg-raised px-2 text-ink disabled:opacity-70";

/** Each column of the file with some of its cells, what it is taken for, and in which unit. */
export function ColumnTable({ row, kinds, answers, onChange }: Props) {
  const remembered = new Set(row.preview.remembered);
  return (
    <table className="w-full text-left">
      <thead className="border-b border-ink">
        <tr>
          <th className="py-1 pr-3">Column in the file</th>
          <th className="pr-3">Some of its cells</th>
          <th className="pr-3">What it is</th>
          <th>Unit</th>
        </tr>
      </thead>
      <tbody>
        {row.preview.columns.map(({ header, samples, date_order }, place) => {
          const { key, unit } = answers.columns[place]!;
          const units = kinds.find((kind) => kind.key === key)?.units ?? [];
          const why =
            (unit === row.answers.columns[place]?.unit && row.preview.evidence[key]) ||
            (remembered.has(header) && "as you said of an earlier file");
          return (
            <tr key={header} className="border-b border-line align-top">
              <th scope="row" className={`max-w-40 py-1.5 pr-3 break-words ${key ? "" : "text-muted font-normal"}`}>
                {header}
              </th>
              <td className="max-w-64 py-1.5 pr-3">
                <span className="line-clamp-2 break-words text-muted">{samples.join(" · ") || "empty"}</span>
              </td>
              <td className="py-1 pr-3">
                <select
                  aria-label={`What ${header} is`}
                  className={`${BOX} w-52 ${key ? "border-ink" : "border-line text-muted"}`}
                  value={key}
                  onChange={(event) => {
                    const next = kinds.find((kind) => kind.key === event.target.value);
                    const said = setKind(answers, place, event.target.value, next?.units ?? []);
                    onChange(next?.key === "date" ? { ...said, date_order } : said);
                  }}
                >
                  <option value="">left out</option>
                  {kinds.map((kind) => (
                    <option key={kind.key} value={kind.key}>
                      {kind.label}
                    </option>
                  ))}
                </select>
                {why && <p className="text-sm text-muted">{why}</p>}
              </td>
              <td className="py-1">
                {units.length > 0 && (
                  <select
                    aria-label={`Unit of ${header}`}
                    className={`${BOX} ${unit ? "border-ink" : "border-signal text-signal"}`}
                    value={unit ?? ""}
                    onChange={(event) => onChange(setUnit(answers, place, event.target.value))}
                  >
                    <option value="">which?</option>
                    {units.map((each) => (
                      <option key={each}>{each}</option>
                    ))}
                  </select>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
