import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useProtocol, useSpecies } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { formatDay, plural } from "@/ui/words/format";
import { ProtocolSheet, type Row, type Section } from "./ProtocolSheet";

type Protocol = Schemas["Protocol"];

/** What crews go by: one version holds, and each outing keeps the one it was made under. */
export function ProtocolPart() {
  const { membership, may } = useHere();
  const [looked, setLooked] = useState<number | null>(null);
  const { data, error } = useProtocol(membership.programme, looked);
  const { data: species } = useSpecies(membership.programme);
  const [changing, setChanging] = useState<string | null>(null);
  if (error) return <ErrorMessage failure={error} />;
  if (!data) return <p className="text-muted">Reading the protocol...</p>;
  const groups = [...new Set(data.sections.map(({ group }) => group))];
  const section = data.sections.find(({ code }) => code === changing);
  const names = new Map(species?.known.map(({ code, name }) => [code, name]));
  return (
    <>
      <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-2">
        <Versions data={data} onLook={setLooked} />
        {!data.standing && <p className="pb-2 font-semibold text-signal">! An earlier version; it holds no more.</p>}
      </div>
      <p className="mt-2 max-w-3xl text-sm text-muted">
        A change makes the next version. Outings that are open keep theirs until somebody lets them go by the new one.
        Law, permit, animal-care protocol and the licensed person decide.
      </p>
      {groups.map((group) => (
        <section key={group} aria-label={group} className="mt-5">
          <h3 className="border-b border-ink font-semibold">{group}</h3>
          {data.sections
            .filter((each) => each.group === group)
            .map((each) => {
              const rows = (data.values[each.code] ?? []) as Row[];
              return (
                <details key={each.code} className="group border-b border-line">
                  <summary className="flex min-h-[44px] cursor-pointer flex-wrap items-center gap-x-3">
                    <span aria-hidden="true" className="text-muted group-open:rotate-90">
                      ▸
                    </span>
                    <span className="font-semibold">{each.title}</span>
                    <span className="min-w-0 flex-1 truncate text-sm text-muted">{inShort(each, rows)}</span>
                  </summary>
                  <div className="pb-3">
                    <p className="max-w-3xl text-sm text-muted">{each.note}</p>
                    <Rows section={each} rows={rows} names={names} />
                    {may("plan") && data.standing && (
                      <Button className="mt-2" onClick={() => setChanging(each.code)}>
                        Change {each.title.toLowerCase()}
                      </Button>
                    )}
                  </div>
                </details>
              );
            })}
        </section>
      ))}
      {section && (
        <ProtocolSheet
          section={section}
          rows={(data.values[section.code] ?? []) as Row[]}
          number={data.number}
          species={(species?.listed ?? []).map((code) => ({ code, name: names.get(code) ?? code }))}
          onClose={() => setChanging(null)}
        />
      )}
    </>
  );
}

function Versions({ data, onLook }: { data: Protocol; onLook: (number: number | null) => void }) {
  const told = ({ number, made_at, by, why, outings }: Protocol["versions"][number]) =>
    `${number}: ${formatDay(made_at)}${by && `, ${by}`}; ${why}; ${plural(outings, "outing")}`;
  return (
    <div className="max-w-full min-w-72">
      <Choice
        label="Version"
        value={data.number}
        onChange={({ target: { value } }) => onLook(Number(value) === data.versions[0]?.number ? null : Number(value))}
      >
        {data.versions.map((each) => (
          <option key={each.number} value={each.number}>
            {told(each)}
          </option>
        ))}
      </Choice>
    </div>
  );
}

/** A section in a line: its words, or how many rows there are. */
function inShort({ columns }: Section, rows: Row[]): string {
  if (!rows.length) return "none";
  if (columns.some(({ name }) => name === "word")) return rows.map(({ word }) => word).join(", ");
  if (rows.length > 1) return plural(rows.length, "row");
  return columns.map(({ name, title, unit }) => `${title} ${rows[0]![name] ?? "any"} ${unit}`.trim()).join(", ");
}

interface RowsProps {
  section: Section;
  rows: Row[];
  names: Map<string, string>;
}

function Rows({ section, rows, names }: RowsProps) {
  if (!rows.length) return null;
  const shown = (column: Section["columns"][number], cell: string | number | null | undefined) => {
    if (column.kind === "species") return cell ? (names.get(String(cell)) ?? cell) : "every species";
    if (column.kind === "choice") return column.choices.find(({ value }) => value === cell)?.label ?? cell;
    return cell ?? "";
  };
  return (
    <div className="mt-1 overflow-x-auto">
      <table className="text-left text-sm">
        <thead>
          <tr className="border-b border-line">
            {section.columns.map(({ name, title, unit }) => (
              <th key={name} className="py-1 pr-5 font-normal text-muted">
                {title}
                {unit && ` (${unit})`}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={JSON.stringify(row)}>
              {section.columns.map((column) => (
                <td key={column.name} className={`pr-5 ${typeof row[column.name] === "number" ? "text-right" : ""}`}>
                  {shown(column, row[column.name])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
