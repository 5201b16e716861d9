import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { usePeople } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { plural } from "@/ui/words/format";
import { CardTable } from "./CardTable";
import {
  answerTo,
  type Checked,
  COLUMNS,
  counted,
  isEmpty,
  keepDraft,
  keptDraft,
  type Line,
  MORE_COLUMNS,
  slashed,
  withAnswers,
  withFile,
  withRoom,
} from "./paper-cards";
import { type FiledCard, useCardSheet, useFileCards } from "./queries";

type Order = "" | "day" | "month";

/** Paper cards at the desk: typed line by line, pasted from a spreadsheet or out of a file; checked, corrected here, stored once. */
export function PaperCardsScreen() {
  const { membership, may } = useHere();
  const { programme } = membership;
  const [lines, setLines] = useState<Line[]>(() => keptDraft(programme));
  const [checked, setChecked] = useState<Checked>(new Map());
  const [tagger, setTagger] = useState("");
  const [unit, setUnit] = useState(membership.length_unit as "mm" | "cm" | "in");
  const [order, setOrder] = useState<Order>("");
  const { data: people } = usePeople(programme);
  const sheet = useCardSheet(programme);
  const file = useFileCards(programme);
  useEffect(() => keepDraft(programme, lines), [programme, lines]);
  if (!may("correct_record"))
    return <main className="p-6">Paper cards of others are entered by biologists and leads.</main>;
  const filled = lines.filter((line) => !isEmpty(line));
  const read = (chosen: File, columns: Record<string, string> = {}) =>
    sheet.mutate(
      { file: chosen, columns },
      {
        onSuccess: (found) => {
          // read again with other columns, its lines take the place of those that it gave before
          const before = new Set(sheet.variables?.file === chosen ? sheet.data?.rows.map(({ id }) => id) : []);
          setLines((there) =>
            withFile(
              there.filter(({ id }) => !before.has(id)),
              found,
            ),
          );
          setChecked(new Map());
          if (found.date_order) setOrder(found.date_order);
          notify(`${plural(found.rows.length, "card")} read from ${chosen.name}. Check them below.`);
        },
      },
    );
  const send = (store: boolean) =>
    file.mutate(
      { rows: filled, tagger: tagger || null, date_order: order || null, length_unit: unit, store },
      {
        onSuccess: (answers) => {
          setChecked(withAnswers(filled, answers));
          if (!store) return;
          const done = new Set(answers.filter(({ state }) => state !== "refused").map(({ id }) => id));
          setLines((there) => withRoom(there.filter(({ id }) => !done.has(id))));
          notify(storedWords(answers));
        },
      },
    );
  const answers = filled.flatMap((line) => answerTo(checked, line) ?? []);
  const n = counted(answers);
  const all = filled.length > 0 && answers.length === filled.length;
  return (
    <main className="px-4 py-3">
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <h1 className="mr-auto text-xl font-semibold">Enter paper cards</h1>
        <Link
          to="/tags/volunteers"
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
        >
          Volunteers
        </Link>
      </div>
      <p className="max-w-prose pb-2 text-muted">
        Type a card a line, paste cells from a spreadsheet, or read a file. Nothing is stored before you say so, and
        what you typed stays on this device until then.
      </p>
      <div className="flex flex-wrap items-end gap-3 pb-3">
        <FileButton label="Read file" accept=".csv,.txt,.tsv,.xlsx,.zip" onFile={(chosen) => read(chosen)} />
        <Choice
          label="Tagger, where a line names none"
          value={tagger}
          onChange={({ target }) => setTagger(target.value)}
        >
          <option value="">Each line names one</option>
          {people?.members
            .filter(({ left_at }) => !left_at)
            .map(({ id, name, number }) => (
              <option key={id} value={id}>
                {number ? `${name} (${number})` : name}
              </option>
            ))}
        </Choice>
        <Choice
          label="Lengths without a unit"
          value={unit}
          onChange={({ target }) => setUnit(target.value as typeof unit)}
        >
          <option value="mm">mm</option>
          <option value="cm">cm</option>
          <option value="in">in</option>
        </Choice>
        {slashed(filled) && (
          <Choice
            label="Dates such as 5/4/2026"
            value={order}
            onChange={({ target }) => setOrder(target.value as Order)}
          >
            <option value="">Choose one</option>
            <option value="day">Day first</option>
            <option value="month">Month first</option>
          </Choice>
        )}
      </div>
      {(sheet.error ?? file.error) && <ErrorMessage failure={(sheet.error ?? file.error)!} />}
      {sheet.data && (
        <UnreadColumns
          columns={sheet.data.columns}
          onChoose={(header, key) => read(sheet.variables!.file, { ...sheet.variables!.columns, [header]: key })}
        />
      )}
      <fieldset disabled={file.isPending} aria-label="Cards">
        <CardTable lines={lines} checked={checked} onLines={setLines} />
      </fieldset>
      <div className="sticky bottom-0 mt-2 flex flex-wrap items-center gap-3 border-t border-line bg-paper py-2">
        <Button
          large
          look={all ? "plain" : "ink"}
          disabled={!filled.length || file.isPending}
          onClick={() => send(false)}
        >
          Check {plural(filled.length, "card")}
        </Button>
        <Button
          large
          look={all ? "ink" : "plain"}
          disabled={!all || !n.ready || file.isPending}
          onClick={() => send(true)}
        >
          Store {plural(n.ready, "card")}
        </Button>
        <p role="status">{file.isPending ? "Working..." : all ? checkedWords(n) : "Not checked yet."}</p>
      </div>
    </main>
  );
}

function checkedWords({ ready, there, refused }: ReturnType<typeof counted>): string {
  const parts = [`${ready} ready`];
  if (there) parts.push(`${there} here already`);
  if (refused) parts.push(`${refused} to correct, with the reason below the line`);
  return `${parts.join(", ")}.`;
}

function storedWords(answers: FiledCard[]): string {
  const { stored, there, refused } = counted(answers);
  const rest = [there && `${there} were here already`, refused && `${refused} stay to be corrected`].filter(Boolean);
  return `${plural(stored, "card")} stored${rest.length ? `; ${rest.join(", ")}` : ""}.`;
}

interface UnreadProps {
  columns: { header: string; key: string }[];
  onChoose: (header: string, key: string) => void;
}

/** Columns whose names say nothing: somebody may say what they hold. */
function UnreadColumns({ columns, onChoose }: UnreadProps) {
  const unread = columns.filter(({ key, header }) => !key && header);
  const taken = new Set(columns.map(({ key }) => key));
  if (!unread.length) return null;
  return (
    <fieldset className="flex flex-wrap items-end gap-3 pb-3">
      <legend className="pb-1 text-sm text-muted">Columns of the file that are not read</legend>
      {unread.map(({ header }) => (
        <Choice
          key={header}
          label={`"${header}" holds`}
          value=""
          onChange={({ target }) => onChoose(header, target.value)}
        >
          <option value="">Nothing of a card</option>
          {[...COLUMNS, ...MORE_COLUMNS]
            .filter(({ key }) => !taken.has(key))
            .map(({ key, title }) => (
              <option key={key} value={key}>
                {title}
              </option>
            ))}
        </Choice>
      ))}
    </fieldset>
  );
}
