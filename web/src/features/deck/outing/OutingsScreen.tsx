import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { gearWords } from "@/ui/words/gears";
import { OpenOutingSheet } from "../sheets";
import { fetchOutings } from "./outings";

/** Which outing to work: the open ones first, then what was done. */
export function OutingsScreen() {
  const { membership, may } = useHere();
  const [opening, setOpening] = useState(false);
  const { data, error } = useQuery({
    queryKey: ["outings", membership.programme],
    queryFn: () => fetchOutings(membership.programme),
  });
  const open = data?.filter(({ state }) => state === "open") ?? [];
  const closed = data?.filter(({ state }) => state === "closed") ?? [];
  return (
    <main className="mx-auto max-w-6xl px-4 py-5">
      <div className="flex items-baseline justify-between">
        <h1 className="text-2xl font-semibold">Outings</h1>
        {may("open_outing") && (
          <Button large onClick={() => setOpening(true)}>
            Open an outing
          </Button>
        )}
      </div>
      {error && <ErrorMessage failure={error} />}
      <section aria-label="Open outings" className="mt-3">
        {open.map((outing) => (
          <Link
            key={outing.id}
            to="/deck/$outing"
            params={{ outing: outing.id }}
            className="flex min-h-16 flex-wrap items-center gap-x-6 border-y-2 border-ink px-2 py-2 hover:bg-wash"
          >
            <strong className="text-xl">{outing.name}</strong>
            <span>{formatDay(outing.date)}</span>
            <span className="text-muted">
              {outing.n_runs} runs, {outing.n_fish} fish so far
            </span>
            <span className="ml-auto font-semibold underline underline-offset-4">Work the deck</span>
          </Link>
        ))}
        {data && !open.length && (
          <Empty>
            No outing is open.{" "}
            {may("open_outing") ? "Open one for the water you are going to." : "A crew member opens one."}
          </Empty>
        )}
      </section>
      <p className="mt-3 text-muted">
        New to the deck?{" "}
        {may("work_deck") && (
          <>
            <Link to="/practice" className="text-ink underline underline-offset-4">
              Practice
            </Link>{" "}
            calls fish to you and keeps nothing.{" "}
          </>
        )}
        Reader, board, balance, GPS or probe on a cable:{" "}
        <Link to="/instruments" className="text-ink underline underline-offset-4">
          instruments
        </Link>
        .
      </p>
      {closed.length > 0 && (
        <>
          <h2 className="mt-6 text-lg font-semibold">Done</h2>
          <table className="w-full border-collapse text-left">
            <thead className="text-sm text-muted">
              <tr>
                <th className="py-1">Day</th>
                <th>Outing</th>
                <th className="max-sm:hidden">Gear</th>
                <th className="pl-3 text-right">Runs</th>
                <th className="pl-3 text-right">Fish</th>
              </tr>
            </thead>
            <tbody>
              {closed.map((outing) => (
                <tr key={outing.id} className="border-t border-line hover:bg-wash">
                  <td className="py-1.5 pr-4 whitespace-nowrap">{formatDay(outing.date)}</td>
                  <td className="pr-4">
                    <Link
                      to="/deck/$outing"
                      params={{ outing: outing.id }}
                      className="underline decoration-line underline-offset-4 hover:decoration-ink"
                    >
                      {outing.name}
                    </Link>
                  </td>
                  <td className="pr-4 text-muted max-sm:hidden">{gearWords(outing.gears)}</td>
                  <td className="pl-3 text-right">{outing.n_runs}</td>
                  <td className="pl-3 text-right">{outing.n_fish}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {opening && <OpenOutingSheet onClose={() => setOpening(false)} />}
    </main>
  );
}
