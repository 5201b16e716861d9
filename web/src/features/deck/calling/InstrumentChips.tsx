import { Link } from "@tanstack/react-router";
import { X } from "lucide-react";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import {
  asCalled,
  type InstrumentReading,
  placeWords,
  readingWords,
  useGateway,
  useInstrumentsOf,
  useSerialDevices,
  waitingAfter,
  waitingBeside,
} from "@/features/instruments";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { plural } from "@/ui/words/format";
import type { DeckStore } from "../document/deck-store";
import { recordWater } from "../operations/water-record";
import { hearPosition } from "../runs/position";

interface Props {
  store: DeckStore;
  /** Under whose name they are heard. */
  outing: string;
  run: Schemas["Run"] | undefined;
  /** Nothing of it enters the record. */
  practice: boolean;
  /** The fish that was kept last: what it took does not wait any more. */
  last: Schemas["Capture"] | undefined;
  onCall: (words: string) => void;
  /** The gateway has answered once, or is not reached. */
  onAsked?: (() => void) | undefined;
}

/** What instruments on cables read waits here until a touch, a key or the call takes it; a pulled plug changes nothing else. */
export function InstrumentChips({ store, outing, practice, run, last, onCall, onAsked }: Props) {
  const { data } = useInstrumentsOf(outing, practice);
  const [waiting, setWaiting] = useState<readonly InstrumentReading[]>([]);
  const hear = (reading: InstrumentReading) => {
    if (reading.kind === "position") hearPosition(reading.values);
    setWaiting((before) => waitingAfter(before, reading));
  };
  const simulated = data?.simulated ?? false;
  // what hangs on this tablet's own cable is real, also beside simulated instruments
  const gateway = useGateway(data?.stream ?? "", (reading) => hear({ ...reading, simulated }));
  useEffect(() => {
    if (gateway.asked) onAsked?.();
  }, [gateway.asked, onAsked]);
  const cables = useSerialDevices(hear);
  // a probe speaks every few seconds: once a run its reading is kept, or is not wanted
  const [enough, setEnough] = useState<string | null>(null);
  const here = run?.id ?? "";
  const waterKept = enough === here || store.view.document.water_readings.some((each) => (each.run ?? "") === here);
  const drop = (reading: InstrumentReading) => {
    if (reading.kind === "water") setEnough(here);
    setWaiting((before) => before.filter((each) => each !== reading));
  };
  const kept = useRef(last?.id);
  useEffect(() => {
    if (!last || last.id === kept.current) return;
    kept.current = last.id;
    const numbers = [...last.scans, ...last.placed].map(({ number }) => number);
    setWaiting((before) => waitingBeside(before, { ...last, numbers }));
  }, [last]);
  const take = (reading: InstrumentReading) => {
    const words = asCalled(reading);
    if (words) onCall(words);
    else if (reading.kind === "water") void recordWater(store, reading.values, run?.id ?? null);
    drop(reading);
  };
  const takeAll = () => waiting.filter((each) => asCalled(each)).forEach(take);
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.key !== "PageDown" || event.defaultPrevented || document.querySelector("[role=dialog]")) return;
    event.preventDefault();
    takeAll();
  });
  const on = gateway.states !== null || cables.length > 0;
  useEffect(() => {
    if (!on) return;
    const listener = (event: KeyboardEvent) => onKey(event);
    window.addEventListener("keydown", listener);
    return () => window.removeEventListener("keydown", listener);
  }, [on]);
  if (!on) return null;
  const lost = gateway.states !== null && !gateway.heard;
  const states = [...((!lost && gateway.states) || []), ...cables];
  const odd = states.filter(({ state }) => state !== "connected");
  const shown = waiting.filter(({ kind }) => kind !== "position" && (kind !== "water" || !waterKept));
  const place = waiting.find(({ kind }) => kind === "position")?.values;
  return (
    <section aria-label="Instruments" className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
      <ul aria-label="Waiting to be taken" className="flex flex-wrap gap-1.5">
        {shown.map((reading) => (
          <li key={reading.kind + reading.text} className="flex items-stretch rounded-sm border border-ink bg-raised">
            <button
              type="button"
              className="min-h-[44px] cursor-pointer px-3 text-base font-semibold disabled:cursor-default disabled:font-normal disabled:text-muted"
              disabled={!reading.stable}
              title={reading.kind === "water" ? "Keep as a reading of this run" : "Onto the call line"}
              // the call line keeps the cursor
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => take(reading)}
            >
              {readingWords(reading)}
              {reading.simulated && <span className="block text-xs font-normal text-muted">simulated</span>}
            </button>
            <button
              type="button"
              aria-label={`Not ${readingWords(reading)}`}
              className="min-h-[44px] min-w-[44px] cursor-pointer border-l border-line"
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => drop(reading)}
            >
              <X size={16} className="mx-auto" />
            </button>
          </li>
        ))}
      </ul>
      {shown.some((each) => asCalled(each)) && (
        <Button onMouseDown={(event) => event.preventDefault()} onClick={takeAll}>
          Take them <Key>Page Down</Key>
        </Button>
      )}
      <p role="status" className={!lost && !odd.length ? "text-muted" : "font-semibold"}>
        {[
          ...(lost ? ["! The gateway to the instruments is not reached; call by hand."] : []),
          ...odd.map(({ title, state }) => `! ${title} ${STATES[state]}`),
        ].join("; ") || connectedWords(simulated ? states.length - cables.length : 0, states.length)}{" "}
        <Link to="/instruments" className="font-normal underline underline-offset-4">
          bench
        </Link>
        {place && !(lost && !cables.length) && <span className="font-normal text-muted"> · {placeWords(place)}</span>}
      </p>
    </section>
  );
}

/** How many are connected; simulated ones are named as such. */
function connectedWords(simulated: number, all: number): string {
  const real = all - simulated;
  return [
    simulated > 0 && `${plural(simulated, "simulated instrument")} connected`,
    (real > 0 || !simulated) && `${plural(real, "instrument")} connected`,
  ]
    .filter(Boolean)
    .join(", ");
}

const STATES = {
  connected: "connected",
  silent: "is silent",
  garbled: "is garbled: read again",
  absent: "is not there",
};
