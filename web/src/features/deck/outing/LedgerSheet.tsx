import { useQuery } from "@tanstack/react-query";
import { answer, api } from "@/api/client";
import { Sheet } from "@/ui/Sheet";
import { whole } from "@/ui/words/format";
import { hasRods } from "@/ui/words/gears";
import type { DeckView } from "../document/deck-store";
import { deathsWords, type LedgerRow, ledgerOf } from "../rules/ledger";
import { AnglersCards } from "./AnglersCards";

/** Daily summary: what came aboard, how it left, what the deaths say, and what is not complete yet. */
export function LedgerSheet({ view, onClose }: { view: DeckView; onClose: () => void }) {
  const { document: deck, unsent } = view;
  const outing_id = deck.outing.id;
  const { data } = useQuery({
    queryKey: ["ledger", outing_id, deck.captures],
    queryFn: () => answer(api.GET("/api/v1/outings/{outing_id}/ledger", { params: { path: { outing_id } } })),
    retry: false,
  });
  const rows = ledgerOf(deck);
  const told = new Map(data ? [...data.rows, data.total].map((row) => [row.species, row]) : []);
  // the server's words where it knows the same fish; what is not sent yet is counted here all the same
  const deaths = (row: LedgerRow) => {
    const its = told.get(row.species);
    return its && its.came === row.came && its.dead === row.dead && its.aboard === row.aboard
      ? its.deaths
      : deathsWords(row);
  };
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title="Daily summary"
      description="It balances when nothing is aboard. Deaths are told of fish that were not kept on purpose and have left."
    >
      <table className="w-full text-right">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1 text-left">Species</th>
            <th>Came</th>
            <th>Released</th>
            <th className="max-sm:hidden">of them 1 / 2 / 3 / 4</th>
            <th>Died</th>
            <th>Kept</th>
            <th className="max-sm:hidden">Escaped</th>
            <th className="max-sm:hidden">Taken</th>
            <th>Aboard</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={row.species}
              className={`border-b border-line ${row.species ? "" : "border-t border-t-ink font-semibold"}`}
            >
              <td className="py-1 text-left">{row.name}</td>
              <td>{whole(row.came)}</td>
              <td>{whole(row.released)}</td>
              <td className="max-sm:hidden">{row.strengths.map(whole).join(" / ")}</td>
              <td>{whole(row.dead)}</td>
              <td>{whole(row.kept)}</td>
              <td className="max-sm:hidden">{whole(row.escaped)}</td>
              <td className="max-sm:hidden">{whole(row.taken)}</td>
              <td className={row.aboard ? "text-signal" : ""}>{row.aboard ? `! ${whole(row.aboard)}` : "0"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <ul aria-label="Deaths" className="mt-3">
        {[...rows.slice(-1), ...rows.slice(0, -1)].map((row) => {
          const words = deaths(row);
          return (
            words && (
              <li key={row.species} className={row.species ? "" : "font-semibold"}>
                {row.name}: {words}
              </li>
            )
          );
        })}
      </ul>
      {data && data.handled.length + data.done.length > 0 && (
        <ul aria-label="How fish were handled, and against the plan" className="mt-3 text-sm">
          {[...data.handled, ...data.done].map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {data && data.open.length > 0 && (
        <section aria-label="Not complete" className="mt-3 border-l-4 border-signal pl-3">
          <h3 className="font-semibold">! Not complete</h3>
          <ul>
            {data.open.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      <p className="mt-3 flex flex-wrap items-center gap-x-4">
        <a className={LINK} href={`/api/v1/outings/${outing_id}/day.pdf`} download>
          The day in plain words (PDF)
        </a>
        {unsent.size > 0 && <span className="text-muted">What is not sent yet is not in the PDF.</span>}
      </p>
      {deck.runs.some(({ gear }) => hasRods(gear)) && <AnglersCards outing={outing_id} />}
    </Sheet>
  );
}

const LINK = "inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-4";
