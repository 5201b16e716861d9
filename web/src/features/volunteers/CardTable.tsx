import { Button } from "@/ui/Button";
import {
  answerTo,
  type CardColumn,
  type Checked,
  COLUMNS,
  type Line,
  MORE_COLUMNS,
  pasted,
  typed,
  withRoom,
} from "./paper-cards";
import type { FiledCard } from "./queries";

interface Props {
  lines: Line[];
  checked: Checked;
  onLines: (change: (before: Line[]) => Line[]) => void;
}

/** A card a line; what is wrong with one stands below it, its cell marked. */
export function CardTable({ lines, checked, onLines }: Props) {
  const more = MORE_COLUMNS.filter(({ key }) => lines.some(({ cells }) => cells[key]?.trim()));
  const columns = [...COLUMNS, ...more];
  return (
    <div className="overflow-x-auto">
      <table className="text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="pr-2">Line</th>
            {columns.map(({ key, title, hint }) => (
              <th key={key} scope="col" className="py-1 pr-1 align-bottom font-semibold">
                {title}
                {hint && <span className="block font-normal text-muted">{hint}</span>}
              </th>
            ))}
            <th>
              <span className="sr-only">Delete</span>
            </th>
          </tr>
        </thead>
        {lines.map((line, place) => (
          <CardRow
            key={line.id}
            line={line}
            place={place}
            columns={columns}
            answer={answerTo(checked, line)}
            onType={(key, text) => onLines((before) => typed(before, place, key, text))}
            onPaste={(key, text) => onLines((before) => pasted(before, place, key, text, columns))}
            onDelete={() => onLines((before) => withRoom(before.filter(({ id }) => id !== line.id)))}
          />
        ))}
      </table>
    </div>
  );
}

interface RowProps {
  line: Line;
  place: number;
  columns: readonly CardColumn[];
  answer: FiledCard | undefined;
  onType: (key: string, text: string) => void;
  onPaste: (key: string, text: string) => void;
  onDelete: () => void;
}

function CardRow({ line, place, columns, answer, onType, onPaste, onDelete }: RowProps) {
  const wrong = answer?.state === "refused" ? answer.field : "";
  return (
    <tbody>
      <tr>
        <td className="pr-2 text-sm text-muted tabular-nums">{place + 1}</td>
        {columns.map(({ key, title, wide }) => (
          <td key={key} className="pr-1">
            <input
              aria-label={`${title}, line ${place + 1}`}
              aria-invalid={wrong === key}
              className="min-h-[44px] rounded-sm border border-line bg-raised px-1.5 aria-invalid:border-2 aria-invalid:border-signal"
              style={{ width: `calc(${wide}ch + 1.2rem)` }}
              value={line.cells[key] ?? ""}
              maxLength={1000}
              onChange={({ target }) => onType(key, target.value)}
              onPaste={(event) => {
                const text = event.clipboardData.getData("text/plain");
                if (!/[\t\n]/.test(text.replace(/\r?\n$/, ""))) return;
                event.preventDefault();
                onPaste(key, text);
              }}
            />
          </td>
        ))}
        <td>
          {Object.keys(line.cells).length > 0 && (
            <Button aria-label={`Delete line ${place + 1}`} onClick={onDelete}>
              Delete
            </Button>
          )}
        </td>
      </tr>
      {answer && (
        <tr>
          <td />
          <td colSpan={columns.length + 1} className="pb-1.5 text-sm">
            <Verdict answer={answer} />
          </td>
        </tr>
      )}
    </tbody>
  );
}

function Verdict({ answer: { state, message, missing, problem, tagger } }: { answer: FiledCard }) {
  if (state === "refused") return <span className="text-signal">! {message}</span>;
  if (state === "there") return <span className="text-muted">Here already: it is not stored a second time.</span>;
  const notes = [missing.length && `missing: ${missing.join(", ")}`, problem].filter(Boolean).join("; ");
  return (
    <span className={notes ? "text-signal" : "text-muted"}>
      Card of {tagger}, ready{notes && `, kept with a question: ${notes}`}
    </span>
  );
}
