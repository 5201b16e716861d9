import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/app/session";
import type { InstrumentReading } from "@/features/deck/instruments";
import { fetchOutings } from "@/features/deck/outings";
import { useInstruments, useInstrumentsOf } from "@/features/deck/use-instruments";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { useEvening, useStandins } from "./use-evening";

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
  const { data } = useInstrumentsOf(outing?.id);
  const [heard, setHeard] = useState<readonly InstrumentReading[]>([]);
  const { states, heard: reached } = useInstruments(data?.stream ?? "", (reading) =>
    setHeard((before) => [reading, ...before].slice(0, SHOWN)),
  );
  return (
    <main className="mx-auto w-full max-w-6xl p-4">
      <h1 className="text-2xl font-semibold">Instruments</h1>
      {outings.data && !outing && (
        <p className="mt-2">No outing is open: instruments are heard on an open outing's Deck.</p>
      )}
      {data && !data.stream && (
        <p className="mt-2 max-w-prose">
          No gateway to instruments is set up here. A reader that types like a keyboard works without one; how a boat is
          set up stands in docs/running.md.
        </p>
      )}
      {outing && data?.stream && (
        <>
          <p className="mt-1 text-muted">
            {reached ? "The gateway is reached." : "! The gateway is not reached; it is tried again by itself."}{" "}
            Readings go to the Deck of{" "}
            <Link to="/deck/$outing" params={{ outing: outing.id }} className="underline underline-offset-4">
              {outing.name}
            </Link>
            . To try the whole Deck without leaving a trace:{" "}
            <Link to="/practice" className="underline underline-offset-4">
              practice
            </Link>
            .
          </p>
          <div className="mt-3 grid gap-6 lg:grid-cols-2">
            <section aria-label="States">
              <table className="w-full text-left">
                <thead className="border-b border-ink text-sm">
                  <tr>
                    <th className="py-1">Instrument</th>
                    <th>Now</th>
                    <th>Garbled lines</th>
                  </tr>
                </thead>
                <tbody>
                  {(states ?? []).map(({ kind, title, state, why, garbled }) => (
                    <tr key={kind} className="border-b border-line align-top">
                      <td className="py-1.5 font-semibold">{title}</td>
                      <td className={`py-1.5 ${state === "connected" ? "" : "text-signal"}`}>
                        {state === "connected" ? "○ connected" : `! ${state}`}
                        {state === "garbled" && <span className="block text-sm">{why}</span>}
                      </td>
                      <td className="py-1.5">{garbled}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <h2 className="mt-4 font-semibold">Heard last</h2>
              <ul aria-label="Heard last" className="tabular-nums">
                {heard.map((each) => (
                  <li key={each.n} className={each.stable ? "" : "text-muted"}>
                    {each.instrument}:{" "}
                    {each.text ||
                      Object.entries(each.values)
                        .map(([name, value]) => `${name} ${value}`)
                        .join(", ")}
                    {!each.stable && " (still moves)"}
                  </li>
                ))}
              </ul>
            </section>
            {data.play ? (
              <Play address={data.play} />
            ) : (
              <p className="text-muted">These instruments are real: nothing is played here.</p>
            )}
          </div>
        </>
      )}
    </main>
  );
}

const INSTRUMENTS = [
  ["pit", "PIT reader"],
  ["board", "Board"],
  ["balance", "Balance"],
  ["gps", "GPS"],
  ["probe", "Probe"],
] as const;

/** What the stand-ins are to do: one thing at a time, or an evening. */
function Play({ address }: { address: string }) {
  const [length, setLength] = useState<number | null>(437);
  const [mass, setMass] = useState<number | null>(890);
  const [number, setNumber] = useState("999000000120001");
  const [seconds, setSeconds] = useState<number | null>(6);
  const { tell, problem } = useStandins(address);
  const { called, play, stop } = useEvening(tell);
  return (
    <section aria-label="Play" className="grid content-start gap-3">
      <h2 className="font-semibold">An evening</h2>
      <div className="flex flex-wrap items-end gap-2">
        <NumberField live label="A fish every" unit="s" value={seconds} onNumber={setSeconds} />
        {called ? (
          <Button large look="ink" onClick={stop}>
            Stop
          </Button>
        ) : (
          <Button large onClick={() => play(seconds ?? 6)}>
            Play it
          </Button>
        )}
      </div>
      {called && (
        <p aria-live="polite" className="border-l-4 border-ink pl-3 text-2xl">
          "{called}"
        </p>
      )}
      <h2 className="font-semibold">The stand-ins do</h2>
      <div className="grid grid-cols-2 items-end gap-2">
        <NumberField live label="Length" unit="mm" value={length} onNumber={setLength} />
        <Button large onClick={() => void tell({ do: "length", value: length ?? 0 })}>
          Board: measure
        </Button>
        <NumberField live label="Mass" unit="g" value={mass} onNumber={setMass} />
        <Button large onClick={() => void tell({ do: "mass", value: mass ?? 0 })}>
          Balance: weigh
        </Button>
        <Field label="PIT number" maxLength={15} value={number} onChange={(event) => setNumber(event.target.value)} />
        <Button large disabled={!/^\d{15}$/.test(number)} onClick={() => void tell({ do: "pit", number })}>
          Reader: read it
        </Button>
      </div>
      <h2 className="font-semibold">What goes wrong</h2>
      <div className="grid gap-1">
        {INSTRUMENTS.map(([of, word]) => (
          <div key={of} className="flex flex-wrap items-center gap-1.5">
            <span className="w-28">{word}</span>
            <Button onClick={() => void tell({ do: "unplug", of })}>Pull the plug</Button>
            <Button onClick={() => void tell({ do: "plug", of })}>Plug in</Button>
            <Button onClick={() => void tell({ do: "garble", of })}>Garble</Button>
          </div>
        ))}
        <div className="flex flex-wrap gap-1.5">
          <Button onClick={() => void tell({ do: "never settle", value: mass ?? 0 })}>
            A balance that never settles
          </Button>
          <Button onClick={() => void tell({ do: "flood", of: "board", n: 1000 })}>A thousand lines at once</Button>
        </div>
      </div>
      <p role="status" className="text-signal">
        {problem}
      </p>
    </section>
  );
}
