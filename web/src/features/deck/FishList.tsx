import { Pencil, X } from "lucide-react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { formatGrams, formatInches, formatMm, formatTime } from "@/ui/format";
import type { DeckView } from "./deck-store";

type Capture = Schemas["Capture"];

interface Props {
  view: DeckView;
  run: Schemas["Run"] | undefined;
  working: boolean;
  correcting: string | undefined;
  onCorrect: (capture: Capture) => void;
  onDelete: (capture: Capture) => void;
}

const SHOWN = 60;

/** What has been kept, newest first, and how many of each species. */
export function FishList({ view, run, working, correcting, onCorrect, onDelete }: Props) {
  const { captures, species, outing, runs } = view.deck;
  const newest = captures.slice(-SHOWN).reverse();
  const numbers = new Map(runs.map(({ id, number }) => [id, number]));
  return (
    <section aria-label="Fish kept" className="flex min-h-48 flex-col border-t border-line pt-2 lg:col-start-2">
      <ul className="flex flex-wrap gap-x-4 text-sm" aria-label="Tally by species">
        {species.map(({ code, name }) => {
          const of = captures.filter((each) => each.species === code);
          const total = fish(of);
          return total ? (
            <li key={code}>
              {name} <strong>{total}</strong>
              {run && <span className="text-muted">, {fish(of.filter((each) => each.run === run.id))} this run</span>}
            </li>
          ) : null;
        })}
      </ul>
      <div className="mt-1 max-h-[19rem] flex-1 overflow-y-auto lg:max-h-none lg:basis-0">
        <table className="w-full border-collapse text-left">
          <thead className="sticky top-0 bg-paper text-xs text-muted">
            <tr>
              <th className="py-1 pr-2">Run</th>
              <th className="pr-2">Time</th>
              <th className="pr-2">Species</th>
              <th className="pr-2 text-right">Length (mm)</th>
              <th className="pr-2 text-right">(in)</th>
              <th className="pr-2 text-right">Mass (g)</th>
              <th className="pr-2">Sex</th>
              <th>
                <span className="sr-only">Marks and actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {newest.map((capture) => (
              <tr
                key={capture.id}
                data-capture={capture.id}
                className={`h-9 border-t border-line ${correcting === capture.id ? "bg-wash" : ""}`}
              >
                <td className="pr-2 text-muted">{numbers.get(capture.run)}</td>
                <td className="pr-2 text-muted">{formatTime(capture.device_time, outing.time_zone)}</td>
                <td className="pr-2">
                  {capture.species}
                  {(capture.count ?? 1) > 1 && ` x ${capture.count}`}
                </td>
                <td className="pr-2 text-right font-semibold">
                  {capture.length_mm != null &&
                    `${capture.length_basis === "estimated" ? "~" : ""}${formatMm(capture.length_mm).replace(" mm", "")}`}
                </td>
                <td className="pr-2 text-right text-muted">
                  {capture.length_mm != null && formatInches(capture.length_mm).replace(" in", "")}
                </td>
                <td className="pr-2 text-right">
                  {capture.mass_g != null &&
                    `${capture.mass_basis === "estimated" ? "~" : ""}${formatGrams(capture.mass_g).replace(" g", "")}`}
                </td>
                <td className="pr-2">{capture.sex === "u" ? "" : capture.sex}</td>
                <td className="text-right whitespace-nowrap">
                  <Marks capture={capture} unsent={view.unsent.has(capture.id)} />
                  {working && (
                    <>
                      <Button
                        aria-label={`Correct ${capture.species} ${capture.length_text}`}
                        className="border-0"
                        onClick={() => onCorrect(capture)}
                      >
                        <Pencil size={16} />
                      </Button>
                      <Button
                        aria-label={`Take out ${capture.species} ${capture.length_text}`}
                        className="border-0"
                        onClick={() => onDelete(capture)}
                      >
                        <X size={18} />
                      </Button>
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {!newest.length && (
          <p className="py-4 text-muted">No fish yet. Call the first one as the measurer says it: wal 469 1120 f</p>
        )}
        {captures.length > SHOWN && (
          <p className="py-2 text-sm text-muted">
            The newest {SHOWN} of {captures.length}.
          </p>
        )}
      </div>
    </section>
  );
}

function Marks({ capture, unsent }: { capture: Capture; unsent: boolean }) {
  const doubts = capture.questions
    ?.map(({ code, answer }) => `${code.replaceAll("_", " ")}: ${answer?.replaceAll("_", " ") ?? ""}`)
    .join("; ");
  return (
    <span className="mr-1 text-sm">
      {doubts && (
        <span title={doubts} role="img" aria-label={`Questioned: ${doubts}`} className="mr-2 font-semibold">
          ?
        </span>
      )}
      {unsent && (
        <span title="Not sent yet; kept on this device" className="text-muted">
          unsent
        </span>
      )}
    </span>
  );
}

function fish(captures: Capture[]): number {
  return captures.reduce((sum, { count = 1 }) => sum + count, 0);
}
