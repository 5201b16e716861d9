import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { type CoursePassed, courseWords, useCourse } from "@/features/course";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { CardLetterSheet } from "./CardLetterSheet";
import { type ListedKit, useKits } from "./queries";

const LINK = "inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink";

/** Everybody with tags or cards: what is with them, which cards need a person, who has passed the course. */
export function VolunteersScreen() {
  const { membership, may } = useHere();
  const { data, error } = useKits(membership.programme);
  const { data: course } = useCourse(membership.programme);
  const [letter, setLetter] = useState<ListedKit | null>(null);
  return (
    <main className="px-4 py-3">
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <h1 className="mr-auto text-xl font-semibold">Volunteers and their cards</h1>
        {may("correct_record") && (
          <Link to="/tags/volunteers/paper" className={LINK}>
            Enter paper cards
          </Link>
        )}
        <Link to="/kit/course" className={LINK}>
          Tagging course
        </Link>
        <Link to="/tags" className={LINK}>
          Stock of tags
        </Link>
      </div>
      {error && <ErrorMessage failure={error} />}
      {!data && !error && <p className="text-muted">Loading...</p>}
      {data?.length === 0 && (
        <Empty>
          Nobody has tags with them yet. Invite volunteers in Settings, People; then hand tags out to them in the stock
          of tags. Their own page, Kit, is on their phones at once.
        </Empty>
      )}
      {data && data.length > 0 && <Table kits={data} passed={course?.passed ?? []} onLetter={setLetter} />}
      {letter && <CardLetterSheet kit={letter} onClose={() => setLetter(null)} />}
    </main>
  );
}

interface TableProps {
  kits: ListedKit[];
  passed: CoursePassed[];
  onLetter: (kit: ListedKit) => void;
}

function Table({ kits, passed, onLetter }: TableProps) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full max-w-6xl text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1 pr-3">Name</th>
            <th className="pr-3">Number</th>
            <th className="pr-3">Tagging course</th>
            <th className="pr-3 text-right">Tags with them</th>
            <th className="pr-3 text-right">Cards</th>
            <th className="pr-3 text-right">Incomplete</th>
            <th className="pr-3 text-right">Tag to look into</th>
            <th className="pr-3">Last card</th>
            <th>Letter</th>
          </tr>
        </thead>
        <tbody>
          {kits.map((kit) => (
            <tr key={kit.id} className="border-b border-line">
              <td className="pr-3">
                <Link
                  to="/kit/$kit"
                  params={{ kit: kit.id }}
                  className="inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4"
                >
                  {kit.name}
                </Link>
              </td>
              <td className="pr-3 tabular-nums">{kit.number}</td>
              <Course passed={passed.find(({ holder }) => holder === kit.name)} hasTags={kit.tags > 0} />
              <td className="pr-3 text-right tabular-nums">{kit.tags}</td>
              <td className="pr-3 text-right tabular-nums">{kit.cards}</td>
              <Waits n={kit.incomplete} />
              <Waits n={kit.problems} />
              <td className="pr-3">{kit.last ? formatDay(kit.last) : "none yet"}</td>
              <td>
                {kit.incomplete + kit.problems > 0 && (
                  <Button aria-label={`Ask ${kit.name} for what is missing`} onClick={() => onLetter(kit)}>
                    Ask
                  </Button>
                )}
                {kit.asked_at && <span className="pl-2 text-sm text-muted">asked {formatDay(kit.asked_at)}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Tags in the hands of somebody without the course are worth a look. */
function Course({ passed, hasTags }: { passed: CoursePassed | undefined; hasTags: boolean }) {
  const open = !passed || passed.state === "expired";
  return (
    <td className={`pr-3 ${open && hasTags ? "font-semibold text-signal" : ""}`}>
      {open && hasTags && <span aria-hidden="true">! </span>}
      {courseWords(passed)}
    </td>
  );
}

function Waits({ n }: { n: number }) {
  return (
    <td className={`pr-3 text-right tabular-nums ${n ? "font-semibold text-signal" : ""}`}>
      {n > 0 && <span aria-hidden="true">! </span>}
      {n}
    </td>
  );
}
