import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { formatSeconds, formatTime } from "@/ui/words/format";
import { effortWords, gearOf } from "@/ui/words/gears";
import type { Pedal } from "../calling/use-pedal";
import type { DeckStore, DeckView } from "../document/deck-store";
import { beyondOrders } from "../rules/orders";
import { RunSheet } from "../sheets";
import { RunMore } from "./RunMore";

interface Props {
  store: DeckStore;
  view: DeckView;
  run: Schemas["Run"] | undefined;
  pedal: Pedal;
  onStartOrEnd: () => void;
}

/** The run that is going: place, settings, the pedal clock. */
export function RunBar({ store, view, run, pedal, onStartOrEnd }: Props) {
  const [editing, setEditing] = useState(false);
  const { sites, outing, runs } = view.document;
  const site = sites.find(({ id }) => id === run?.site);
  if (!run) {
    return (
      <div className="flex items-center gap-4 border-b border-line px-4 py-2">
        <p className="font-semibold text-signal">No run in progress.</p>
        <p className="text-muted">
          {runs.length ? `${runs.length} worked so far.` : "Start the first one; fish are called into a run."}
        </p>
        <Button look="ink" large className="ml-auto" onClick={onStartOrEnd}>
          Start run <Key>F8</Key>
        </Button>
      </div>
    );
  }
  const { electric, label } = gearOf(run.gear);
  const { volts, amps, pulse_hz } = run;
  const beyond = Object.values(
    beyondOrders(view.document, { volts: volts ?? 0, amps: amps ?? 0, pulse_hz: pulse_hz ?? 0 }),
  ).filter(Boolean);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-1 max-sm:px-2">
      <div className="flex items-center gap-x-3">
        <div className="max-lg:flex max-lg:flex-wrap max-lg:gap-x-4">
          <p>
            <strong>Run {run.number}</strong> at <strong>{site?.name}</strong>
            {site?.river_km != null && <span className="text-muted"> km {site.river_km}</span>}
            <span className="text-muted"> since {formatTime(run.started_at, outing.time_zone)}</span>
          </p>
          <p className="text-sm text-muted">
            {electric
              ? `${show(run.volts, "V")}, ${show(run.amps, "A")}, ${show(run.pulse_hz, "Hz")}, ${show(run.pulse_width_ms, "ms")}`
              : [label, ...figuresOf(run), effortWords(run.effort)].filter(Boolean).join(", ")}
          </p>
          {beyond.length > 0 && <p className="text-sm font-semibold text-signal">! {beyond.join(" ")}</p>}
        </div>
        <Button className="border-0 bg-transparent underline underline-offset-2" onClick={() => setEditing(true)}>
          Edit
        </Button>
      </div>
      {electric && (
        <>
          <PedalClock run={run} pedal={pedal} />
          <p className="text-sm leading-tight text-muted max-lg:order-last max-lg:w-full lg:max-w-[17rem]">
            No hand in the water with current on. Stop for people or animals near. The trained leader and local rules
            decide.
          </p>
        </>
      )}
      <RunMore store={store} view={view} run={run} />
      <Button large className="ml-auto" onClick={onStartOrEnd}>
        End run <Key>F8</Key>
      </Button>
      {editing && <RunSheet store={store} view={view} run={run} onClose={() => setEditing(false)} />}
    </div>
  );
}

/** What a run without current was started with. */
function figuresOf({ rods, nets, mesh_mm, hauls, distance_m }: Schemas["Run"]): string[] {
  return [
    rods != null && `${rods} rods`,
    nets != null && `${nets} nets`,
    mesh_mm != null && `mesh ${mesh_mm} mm`,
    hauls != null && `${hauls} hauls`,
    distance_m != null && `${distance_m} m`,
  ].filter((each) => each !== false);
}

function PedalClock({ run, pedal }: { run: Schemas["Run"]; pedal: Pedal }) {
  const [now, setNow] = useState(Date.now);
  const on = pedal.downSince !== null;
  useEffect(() => {
    if (!on) return;
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [on]);
  const seconds = (run.current_on_s ?? 0) + (pedal.downSince === null ? 0 : Math.max(0, now - pedal.downSince) / 1000);
  return (
    <div className="flex items-center gap-3">
      <Button large look={on ? "signal" : "plain"} aria-pressed={on} onClick={pedal.toggle} className="min-w-34">
        {on ? "● Current ON" : "○ Current off"} <Key>F2</Key>
      </Button>
      <p className="leading-none">
        <span className="text-3xl font-semibold">{formatSeconds(seconds)}</span>{" "}
        <span className="text-muted">min:s current on</span>
      </p>
    </div>
  );
}

function show(value: number | null | undefined, unit: string): string {
  return value == null ? `? ${unit}` : `${value} ${unit}`;
}
