import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { plural } from "@/ui/words/format";
import { CardTable } from "./CardTable";
import {
  answerTo,
  type Checked,
  counted,
  isEmpty,
  keepDraft,
  keptDraft,
  type Line,
  slashed,
  withAnswers,
  withFile,
  withRoom,
} from "./paper-cards";
import { type FiledCard, useCardSheet, useFileCards } from "./queries";
import { type Settings, SheetSettings } from "./SheetSettings";
import { UnreadColumns } from "./UnreadColumns";

/** Paper cards at the desk: typed line by line, pasted from a spreadsheet or out of a file; checked, corrected here, stored once. */
export function PaperCardsScreen() {
  const { membership, may } = useHere();
  const { programme } = membership;
  const [lines, setLines] = useState<Line[]>(() => keptDraft(programme));
  const [checked, setChecked] = useState<Checked>(new Map());
  const [settings, setSettings] = useState<Settings>({
    tagger: "",
    unit: membership.length_unit as Settings["unit"],
    order: "",
  });
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
          const { date_order } = found;
          if (date_order) setSettings((before) => ({ ...before, order: date_order }));
          notify(`${plural(found.rows.length, "card")} read from ${chosen.name}. Check them below.`);
        },
      },
    );
  const send = (store: boolean) =>
    file.mutate(
      {
        rows: filled,
        tagger: settings.tagger || null,
        date_order: settings.order || null,
        length_unit: settings.unit,
        store,
      },
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
      <SheetSettings
        programme={programme}
        settings={settings}
        asksOrder={slashed(filled)}
        onChange={(part) => setSettings({ ...settings, ...part })}
        onFile={(chosen) => read(chosen)}
      />
      {(sheet.error ?? file.error) && <ErrorMessage failure={(sheet.error ?? file.error)!} />}
      {sheet.data && (
        <UnreadColumns
          columns={sheet.data.columns}
          onChoose={(header, key) => read(sheet.variables!.file, { ...sheet.variables!.columns, [header]: key })}
        />
      )}
      <fieldset disabled={file.isPending} aria-label="Cards" className="min-w-0">
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
