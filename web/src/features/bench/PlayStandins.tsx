import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { realPorts } from "@/features/deck";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { eveningOf } from "./evening";
import { useEvening, useStandins } from "./use-evening";

const INSTRUMENTS = [
  ["pit", "PIT reader"],
  ["board", "Board"],
  ["balance", "Balance"],
  ["gps", "GPS"],
  ["probe", "Probe"],
] as const;

/** What the stand-ins are to do: one thing at a time, or an evening. */
export function PlayStandins({ address, outing }: { address: string; outing: string }) {
  const [length, setLength] = useState<number | null>(437);
  const [mass, setMass] = useState<number | null>(890);
  const [number, setNumber] = useState("999000000120001");
  const [seconds, setSeconds] = useState<number | null>(6);
  const { tell, problem } = useStandins(address);
  const species = useQuery({
    queryKey: ["species played", outing],
    queryFn: async () => (await realPorts.load(outing)).species,
  }).data;
  const evening = useMemo(() => eveningOf(species ?? []), [species]);
  const { called, play, stop } = useEvening(evening, tell);
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
          <Button large disabled={!evening.length} onClick={() => play(seconds ?? 6)}>
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
      <h2 className="font-semibold">Faults</h2>
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
