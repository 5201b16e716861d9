import { type MouseEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { formatSeconds, plural } from "@/ui/words/format";
import { gearOf, hasRods } from "@/ui/words/gears";
import type { DeckStore, DeckView } from "../document/deck-store";
import { byTime, type Details, type Event, lastOf } from "../handling/events";
import { useNow } from "../handling/use-now";
import { recordEvent } from "../operations/event-record";
import { anglersOf, feedDue, fightsOn } from "../rules/angling";
import { moveOn } from "../rules/nontarget";
import { ambientNow, goalNow } from "../rules/orders";
import { powerAchieved } from "../rules/power";
import { RunMoreSheet } from "../sheets";
import { useTrack } from "./use-track";

interface Props {
  store: DeckStore;
  view: DeckView;
  run: Schemas["Run"];
}

const seconds = (time: string) => Date.parse(time) / 1000;

/** What is said of a run that goes: power, responses, hook-ups, feeding, notes; and its clocks. */
export function RunMore({ store, view, run }: Props) {
  const [open, setOpen] = useState(false);
  const tracking = useTrack(store, run.id);
  const events = byTime(view.document.events.filter((each) => each.run === run.id && each.capture === null));
  return (
    <>
      {gearOf(run.gear).electric && <Power view={view} run={run} events={events} />}
      {hasRods(run.gear) && <Rods store={store} view={view} run={run} events={events} />}
      <RunNotices view={view} run={run} events={events} />
      <Button aria-label="More of the run" title="Notes, power, responses and the like" onClick={() => setOpen(true)}>
        More{tracking.on && (tracking.problem ? " ! no position" : " · track")}
      </Button>
      {open && (
        <RunMoreSheet
          store={store}
          view={view}
          run={run}
          events={events}
          tracking={tracking}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}

/** That the run is paused or broken off, and that too many of its last fish are of no target. */
function RunNotices({ view, run, events }: Pick<Props, "view" | "run"> & { events: Event[] }) {
  const last = lastOf(events, "interrupted")?.details;
  const stopped = last && last.what !== "resumed";
  const other = moveOn(view.document, run.id);
  if (!stopped && !other) return null;
  return (
    <p role="status" className="text-sm leading-tight font-semibold text-signal">
      {stopped && (
        <span className="block">
          ! {last.what === "paused" ? "Paused" : "Broken off"}: {String(last.why)}
        </span>
      )}
      {other && <span className="block">! {other}</span>}
    </p>
  );
}

/** Applied power against the goal in this water, by the volts and amps that were read last. */
function Power({ view, run, events }: Pick<Props, "view" | "run"> & { events: Event[] }) {
  const read = lastOf(events, "power")?.details;
  const volts = Number(read?.volts ?? run.volts ?? 0);
  const amps = Number(read?.amps ?? run.amps ?? 0);
  const now = goalNow(view.document);
  if (!now || !volts || !amps) return null;
  const { percent, r100_ohm } = powerAchieved(volts, amps, now.goal.volts * now.goal.amps, ambientNow(view.document));
  const missed = events
    .filter(({ kind }) => kind === "not_netted")
    .reduce((sum, each) => sum + Number(each.details.n), 0);
  return (
    <p className="text-sm leading-tight">
      power <strong>{percent.toFixed(0)} %</strong> of goal
      {r100_ohm !== null && <span className="block text-muted">R100 {r100_ohm.toFixed(0)} Ω</span>}
      {missed > 0 && <span className="block">{plural(missed, "fish", "fish")} seen, not netted</span>}
    </p>
  );
}

/** The call line keeps the cursor: the next thing typed is a fish. */
const KEEPS_CURSOR = { onMouseDown: (event: MouseEvent) => event.preventDefault() };

/** The fight's clock and the feeder's. */
function Rods({ store, view, run, events }: Props & { events: Event[] }) {
  const now = useNow() / 1000;
  const times = (kind: string) => events.filter((each) => each.kind === kind).map((each) => seconds(each.device_time));
  const inHand = view.document.captures.filter((each) => each.run === run.id).map((each) => seconds(each.device_time));
  const on = fightsOn(times("hooked"), [...inHand, ...times("lost")], now);
  const fed = times("fed");
  const due = feedDue(seconds(run.started_at), fed, now, view.document.orders?.feeding);
  const say = (what: string, words: Details = {}) => void recordEvent(store, { run: run.id }, what, words);
  const anglers = anglersOf(events);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {anglers.length > 1 ? (
        anglers.map((angler) => (
          <Button {...KEEPS_CURSOR} key={angler} large onClick={() => say("hooked", { angler })}>
            {angler}: fish on
          </Button>
        ))
      ) : (
        <Button {...KEEPS_CURSOR} large look={on.length ? "ink" : "plain"} onClick={() => say("hooked")}>
          Fish on <Key>F3</Key>
        </Button>
      )}
      {on.length > 0 && (
        <>
          <p className="text-sm leading-tight">
            A fish is coming up:
            <strong className="block">bath, table and sling ready?</strong>
          </p>
          <p className="leading-none">
            <span className="text-2xl font-semibold tabular-nums">
              {on.map((each) => formatSeconds(each)).join(", ")}
            </span>{" "}
            <span className="text-sm text-muted">fight</span>
          </p>
          <Button {...KEEPS_CURSOR} onClick={() => say("lost", { how: "off" })}>
            Came off
          </Button>
        </>
      )}
      {fed.length > 0 && (
        <Button {...KEEPS_CURSOR} look={due <= 0 ? "signal" : "plain"} onClick={() => say("fed", { casts: 1 })}>
          {due <= 0 ? `! Feed, due ${formatSeconds(-due)} ago` : `Fed; next in ${formatSeconds(due)}`}
        </Button>
      )}
    </div>
  );
}
