import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { fetchOutings } from "@/features/deck";
import {
  type InstrumentReading,
  InstrumentStates,
  OwnCables,
  readingWords,
  useGateway,
  useInstrumentsOf,
  useSerialDevices,
} from "@/features/instruments";
import { useHere } from "@/session";
import { PlayStandins } from "./PlayStandins";

/** As many of the last lines are shown. */
const SHOWN = 12;

/** The instruments' bench: what each of them does now, and, where they are stand-ins, what they are to do next. */
export function BenchScreen() {
  const { membership } = useHere();
  const outings = useQuery({
    queryKey: ["outings", membership.programme],
    queryFn: () => fetchOutings(membership.programme),
  });
  const outing = outings.data?.find(({ state }) => state === "open");
  const { data } = useInstrumentsOf(outing?.id, true);
  const [heard, setHeard] = useState<readonly InstrumentReading[]>([]);
  const hear = (reading: InstrumentReading) => setHeard((before) => [reading, ...before].slice(0, SHOWN));
  const gateway = useGateway(data?.stream ?? "", hear);
  const cables = useSerialDevices(hear);
  return (
    <main className="mx-auto w-full max-w-6xl p-4">
      <h1 className="text-2xl font-semibold">Instruments</h1>
      <p className="mt-1 text-muted">
        {outing ? (
          <>
            Readings wait beside the call line of{" "}
            <Link to="/deck/$outing" params={{ outing: outing.id }} className="underline underline-offset-4">
              {outing.name}
            </Link>
            .
          </>
        ) : (
          outings.data && "No outing is open: readings wait beside the call line of an open one."
        )}{" "}
        To try the whole Deck without leaving a trace:{" "}
        <Link to="/practice" className="underline underline-offset-4">
          practice
        </Link>
        .
      </p>
      <div className="mt-3 grid gap-6 lg:grid-cols-2">
        <div className="grid content-start gap-4">
          <section aria-label="By the gateway">
            <h2 className="font-semibold">By the gateway</h2>
            {data?.stream ? (
              <>
                {!gateway.heard && (
                  <p className="text-signal">! The gateway is not reached; it is tried again by itself.</p>
                )}
                <InstrumentStates states={gateway.states ?? []} />
              </>
            ) : (
              data && (
                <p className="text-muted">
                  No gateway is set up here: how a boat is set up stands in docs/running.md. A reader that types like a
                  keyboard needs none.
                </p>
              )
            )}
          </section>
          <OwnCables devices={cables} />
          <section aria-label="Last readings">
            <h2 className="font-semibold">Last readings</h2>
            <ul aria-label="Last readings" className="tabular-nums">
              {heard.map((each) => (
                <li key={each.n} className={each.stable ? "" : "text-muted"}>
                  {each.instrument}: {readingWords(each)}
                </li>
              ))}
            </ul>
          </section>
        </div>
        {data?.play && outing ? (
          <PlayStandins address={data.play} outing={outing.id} />
        ) : (
          data?.stream && <p className="text-muted">These instruments are real: nothing is played here.</p>
        )}
      </div>
    </main>
  );
}
