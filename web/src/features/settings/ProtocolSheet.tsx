import { Plus, X } from "lucide-react";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { ApiError, type Schemas } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { NumberField } from "@/ui/NumberField";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
import { useDecide } from "./queries";

export type Section = Schemas["Section"];
export type Row = Record<string, string | number | null>;

interface Props {
  section: Section;
  rows: Row[];
  /** The version that is looked at. */
  number: number;
  species: { code: string; name: string }[];
  onClose: () => void;
}

interface Typed {
  key: string;
  row: Row;
}

const keyed = (row: Row): Typed => ({ key: uuidv7(), row });

/** What tells a row from others of its section. */
const named = ({ once, columns }: Section, row: Row) =>
  JSON.stringify((once.length ? once : columns.map(({ name }) => name)).map((name) => row[name] ?? ""));

/** One section of the protocol, decided anew: that is the next version. */
export function ProtocolSheet({ section, rows, number, species, onClose }: Props) {
  const { membership } = useHere();
  const decide = useDecide(membership.programme);
  const [typed, setTyped] = useState<Typed[]>(() => rows.map(keyed));
  const [why, setWhy] = useState("");
  // the key of this decision: touched twice, or sent again, it makes one version
  const [id] = useState(() => uuidv7());
  const refused = decide.error instanceof ApiError ? decide.error : null;
  const set = (place: number, name: string, cell: string | number | null) =>
    setTyped(typed.map((each, at) => (at === place ? { ...each, row: { ...each.row, [name]: cell } } : each)));
  const empty = () =>
    keyed(Object.fromEntries(section.columns.map((each) => [each.name, each.choices[0]?.value ?? null])));
  const there = new Set(typed.map(({ row }) => named(section, row)));
  const suggested = section.suggested.filter((row) => !there.has(named(section, row)));
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={section.title}
      description={section.note}
      wide={section.columns.length > 3}
    >
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          decide.mutate(
            { id, based_on: number, why, sections: { [section.code]: typed.map(({ row }) => row) } },
            {
              onSuccess: (protocol) => {
                notify(
                  protocol.number === number
                    ? "Nothing was changed."
                    : `Version ${protocol.number} holds from now on. Open outings keep theirs.`,
                );
                onClose();
              },
            },
          );
        }}
      >
        {typed.map(({ key, row }, place) => (
          <fieldset key={key} className="flex flex-wrap items-end gap-2 border-b border-line pb-3">
            <legend className="sr-only">Row {place + 1}</legend>
            {section.columns.map((column) => (
              <Cell
                key={column.name}
                column={column}
                cell={row[column.name] ?? null}
                species={species}
                error={refused?.field === `${section.code}.${place}.${column.name}` ? refused.message : undefined}
                onCell={(cell) => set(place, column.name, cell)}
              />
            ))}
            {!section.single && !section.fixed && (
              <Button
                aria-label={`Take row ${place + 1} out`}
                onClick={() => setTyped(typed.filter((_, at) => at !== place))}
              >
                <X size={16} />
              </Button>
            )}
          </fieldset>
        ))}
        {!section.single && !section.fixed && typed.length < section.most && (
          <div className="flex flex-wrap items-center gap-2">
            <Button onClick={() => setTyped([...typed, empty()])}>
              <Plus size={16} /> Add row
            </Button>
            {suggested.length > 0 && (
              <Button onClick={() => setTyped([...typed, ...suggested.map(keyed)].slice(0, section.most))}>
                <Plus size={16} /> Add {plural(suggested.length, "suggested row")}
              </Button>
            )}
            {suggested.length > 0 && (
              <span className="text-sm text-muted">Common practice, no source; the licensed person decides.</span>
            )}
          </div>
        )}
        <Field
          label="Reason"
          value={why}
          maxLength={200}
          placeholder="limits of the new animal-care protocol"
          error={refused?.field === "reason" ? refused.message : undefined}
          onChange={(event) => setWhy(event.target.value)}
        />
        {decide.error && <ErrorMessage failure={decide.error} />}
        <Button type="submit" look="ink" large disabled={decide.isPending}>
          Save section
        </Button>
      </form>
    </Sheet>
  );
}

interface CellProps {
  column: Section["columns"][number];
  cell: string | number | null;
  species: Props["species"];
  error: string | undefined;
  onCell: (cell: string | number | null) => void;
}

function Cell({ column, cell, species, error, onCell }: CellProps) {
  const { kind, title, unit, longest, needed, fixed, choices } = column;
  if (kind === "number" || kind === "whole")
    return (
      <div className="w-34">
        <NumberField
          live
          label={title}
          unit={unit}
          value={cell as number | null}
          optional={!needed}
          error={error}
          onNumber={onCell}
        />
      </div>
    );
  const common = { label: title, error, disabled: fixed, value: String(cell ?? "") };
  if (kind === "species" || kind === "choice")
    return (
      <div className="w-46">
        <Choice {...common} onChange={(event) => onCell(event.target.value)}>
          {kind === "species" && <option value="">every species</option>}
          {(kind === "species" ? species.map(({ code, name }) => ({ value: code, label: name })) : choices).map(
            ({ value, label }) => (
              <option key={value} value={value}>
                {label}
              </option>
            ),
          )}
        </Choice>
      </div>
    );
  return (
    <div className={kind === "code" ? "w-30" : longest > 60 ? "min-w-64 flex-1" : "min-w-44 flex-1"}>
      <Field {...common} maxLength={longest || undefined} onChange={(event) => onCell(event.target.value)} />
    </div>
  );
}
