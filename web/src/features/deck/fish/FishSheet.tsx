import { Tabs } from "radix-ui";
import { useMemo, useState } from "react";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatGrams, formatMm, formatSeconds } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { DepthPanel } from "../handling/DepthPanel";
import { EventLines } from "../handling/EventLines";
import { type Details, detailsOfRun, eventsOf, lastOf } from "../handling/events";
import { Kinds, type PanelProps } from "../handling/Kinds";
import { SurgeryPanel } from "../handling/SurgeryPanel";
import { useNow } from "../handling/use-now";
import { Photos } from "../media/Photos";
import { letMeasurementCount } from "../operations/capture-edit";
import { recordEvent } from "../operations/event-record";
import { releaseFish } from "../operations/release-set";
import { inductionOf } from "../rules/baths";
import { aboardOf, handLimitsFor, lanesOf, momentsOf, standOf } from "../rules/lanes";
import { leavingOf, leavingWords, waysToLeave } from "../rules/leaving";
import { whereNow } from "../runs/position";
import { TagPanel } from "../tagging/TagPanel";

interface Props {
  store: DeckStore;
  view: DeckView;
  captureId: string;
  tab?: Tab;
  /** The outing can still be worked; else all that was said is only read. */
  working: boolean;
  onClose: () => void;
}

const TABS = [
  ["lanes", "Now"],
  ["arrival", "On arrival"],
  ["samples", "Samples"],
  ["tag", "Tag"],
  ["surgery", "Surgery"],
  ["depth", "Barotrauma"],
  ["photos", "Photos"],
  ["release", "Release"],
  ["all", "Event log"],
] as const;
/** Events with which a fish has left. */
const DEPARTURES: ReadonlySet<string> = new Set(["sent_down", "never_aboard"]);
export type Tab = (typeof TABS)[number][0];
/** Groups of events that a tab shows. */
const GROUPS: Partial<Record<Tab, string[]>> = {
  lanes: ["lanes", "bath"],
  arrival: ["arrival"],
  samples: ["samples"],
  release: ["release"],
};

/** One fish between net and release: everything that can be said of it, by touch, and all that was. */
export function FishSheet({ store, view, captureId, tab = "lanes", working, onClose }: Props) {
  const capture = view.document.captures.find(({ id }) => id === captureId);
  const events = useMemo(() => eventsOf(view.document.events, captureId), [view.document.events, captureId]);
  if (!capture) return null; // it was taken out, here or on another tablet
  const say = (what: string, details: Details) => {
    if (what === "other_measure" && details.counts === "this") return measuredAgain(details);
    void recordEvent(store, { capture: captureId }, what, details);
    // it is off the boat: lanes, clocks and the live well have it no longer
    if (DEPARTURES.has(what) && !capture.release)
      void releaseFish(store, [captureId], { fate: details.why === "lost" ? "escaped" : "released" });
  };
  /** Both measurements are kept: the new one in the record, the one before beside it. */
  const measuredAgain = ({ length_mm, mass_g }: Details) => {
    const now = { length_mm: numberOr(length_mm), mass_g: numberOr(mass_g) };
    const before = Object.fromEntries(
      (["length_mm", "mass_g"] as const).flatMap((name) =>
        now[name] !== null && capture[name] !== null ? [[name, capture[name]]] : [],
      ),
    );
    if (Object.keys(before).length)
      void recordEvent(store, { capture: captureId }, "other_measure", { ...before, counts: "first" });
    void letMeasurementCount(store, capture, now);
  };
  const panel = { store, view, capture, events, say };
  const name = view.document.species.find(({ code }) => code === capture.species)?.name ?? capture.species;
  const facts = [
    capture.length_mm !== null && formatMm(capture.length_mm),
    capture.mass_g !== null && formatGrams(capture.mass_g),
    capture.count > 1 && `${capture.count} fish`,
  ].filter(Boolean);
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={[name, ...facts].join(", ")}
      description={
        lastOf(events, "private")?.details.name
          ? `Name: ${lastOf(events, "private")!.details.name}`
          : "What is touched here is kept at once, with its time."
      }
    >
      <Clocks {...panel} working={working} />
      {!working && (
        <>
          <EventLog {...panel} working={false} />
          <Photos store={store} view={view} capture={captureId} working={false} />
        </>
      )}
      {working && (
        <Tabs.Root defaultValue={tab} className="mt-2">
          <Tabs.List aria-label="What is said" className="flex flex-wrap gap-1 border-b border-ink pb-1">
            {TABS.map(([value, label]) => (
              <Tabs.Trigger
                key={value}
                value={value}
                className="min-h-[44px] cursor-pointer rounded-sm border border-line bg-raised px-3 data-[state=active]:border-ink data-[state=active]:bg-ink data-[state=active]:text-on-ink"
              >
                {label}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          {TABS.map(([value]) => (
            <Tabs.Content key={value} value={value} className="min-h-72 pt-3">
              {value === "all" ? (
                <EventLog {...panel} working />
              ) : value === "tag" ? (
                <TagPanel {...panel} />
              ) : value === "surgery" ? (
                <SurgeryPanel {...panel} />
              ) : value === "photos" ? (
                <Photos store={store} view={view} capture={captureId} working />
              ) : value === "depth" ? (
                <DepthPanel {...panel} />
              ) : (
                <>
                  {value === "lanes" && <ToLane {...panel} />}
                  {value === "release" && <Leaves {...panel} onClose={onClose} />}
                  <Kinds {...panel} groups={GROUPS[value] ?? []} offered={{ hands: handsOf(view, capture.run) }} />
                  {value === "release" && <HereByPosition {...panel} />}
                </>
              )}
            </Tabs.Content>
          ))}
        </Tabs.Root>
      )}
    </Sheet>
  );
}

const numberOr = (value: Details[string] | undefined): number | null => (typeof value === "number" ? value : null);

/** Whose hands a fish is likely in: those that were named for its run. */
function handsOf({ document: deck }: DeckView, run: string): Details {
  const { measurer, surgeon } = detailsOfRun(deck.events, run, "hands_on");
  return { ...(measurer ? { measured: measurer } : {}), ...(surgeon ? { tagged: surgeon } : {}) };
}

/** Where it stands, for how long, and how long it has been out of water. */
function Clocks({ view, capture, events, say, working }: PanelProps & { working: boolean }) {
  const now = useNow() / 1000;
  const lanes = lanesOf(view.document);
  const gone = capture.release !== "";
  // of a batch it came aboard before it was called
  const here = useMemo(
    () => aboardOf(view.document).fish.find((each) => each.capture.id === capture.id),
    [view.document, capture.id],
  );
  const came = here?.came_s ?? Date.parse(capture.device_time) / 1000;
  const stand = standOf(came, momentsOf(events), now, lanes, here?.held_s);
  const limits = handLimitsFor(view.document, capture.species, capture.length_mm);
  const late = stand.air_now_s >= limits.air_alarm_s;
  const induction = inductionOf(events);
  const fast = limits.induction_fast_s ?? 0;
  if (gone) return <p className="font-semibold">Disposition: {leavingWords(view.document, leavingOf(capture))}.</p>;
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
      <p>
        {lanes.find(({ code }) => code === stand.lane)?.word ?? stand.lane}{" "}
        <strong className="text-2xl tabular-nums">{formatSeconds(stand.in_lane_s)}</strong>{" "}
        <span className="text-sm text-muted">min:s</span>
      </p>
      <p className={late ? "font-semibold text-signal" : ""}>
        {late && "! "}air <strong className="text-2xl tabular-nums">{formatSeconds(stand.air_now_s)}</strong>{" "}
        <span className="text-sm text-muted">of {formatSeconds(stand.air_s)} in all</span>
      </p>
      <p className="text-sm text-muted">aboard {formatSeconds(stand.aboard_s)}</p>
      {induction !== null && (
        <p className={induction < fast ? "font-semibold text-signal" : "text-sm text-muted"}>
          {induction < fast && "! "}induction time {formatSeconds(induction)}
          {induction < fast && `, sooner than ${formatSeconds(fast)}: the bath may be too strong`}
        </p>
      )}
      {!working ? null : stand.air_now_s > 0 ? (
        <Button large onClick={() => say("air", { where: "in" })}>
          Back in water
        </Button>
      ) : (
        <Button large onClick={() => say("air", { where: "out" })}>
          Out of water
        </Button>
      )}
    </div>
  );
}

/** Into any lane, by one touch. */
function ToLane({ view, events, say }: PanelProps) {
  const lanes = lanesOf(view.document);
  const now = lastOf(events, "lane")?.details.lane ?? lanes[0]?.code;
  return (
    <fieldset className="mb-1 flex flex-wrap items-center gap-1.5" aria-label="Lane">
      <legend className="sr-only">Lane</legend>
      {lanes.map(({ code, word }) => (
        <Button
          key={code}
          large
          look={code === now ? "ink" : "plain"}
          aria-pressed={code === now}
          onClick={() => say("lane", { lane: code })}
        >
          {word}
        </Button>
      ))}
    </fieldset>
  );
}

/** How it goes, by one touch; with strengths first. */
function Leaves({ store, view, capture, events, onClose }: PanelProps & { onClose: () => void }) {
  const ways = waysToLeave(view.document);
  const now = leavingOf(capture);
  const notReady = lastOf(events, "ready")?.details.ready === "no";
  /** A way to go that was touched for a fish that was said to be not ready: asked about before it goes. */
  const [asked, setAsked] = useState<string | null>(null);
  return (
    <fieldset className="mb-3" aria-label="Disposition">
      <legend className="sr-only">Disposition</legend>
      <div className="flex flex-wrap gap-1.5">
        {ways.slice(1).map(({ key, leaving }) => (
          <Button
            key={key}
            large
            look={now.fate === leaving.fate && (now.strength ?? null) === (leaving.strength ?? null) ? "ink" : "plain"}
            onClick={() => {
              if (notReady && leaving.fate === "released" && asked !== key) return setAsked(key);
              void releaseFish(store, [capture.id], leaving);
              notify(
                `${capture.species} ${capture.length_text}: ${leavingWords(view.document, leaving)}.`,
                () => void releaseFish(store, [capture.id], now),
              );
              if (leaving.fate !== "dead") onClose();
            }}
          >
            {leavingWords(view.document, leaving)}
          </Button>
        ))}
      </div>
      {asked && (
        <p role="alert" className="mt-1 font-semibold text-signal">
          ! This fish is recorded as not ready. Touch again to release it all the same, or wait.
        </p>
      )}
    </fieldset>
  );
}

/** Where it was let go, by a GPS on a cable or this tablet; words that were said of the place stay. */
function HereByPosition({ events, say }: PanelProps) {
  const [told, setTold] = useState("");
  const before = (lastOf(events, "let_go")?.details ?? {}) as Details;
  const ask = () => {
    setTold("Asking for the position...");
    whereNow().then(
      (place) => {
        say("let_go", { ...before, ...place });
        setTold("");
      },
      ({ message }: Error) => setTold(`No position (${message}): type it above.`),
    );
  };
  return (
    <p className="mt-2 flex flex-wrap items-center gap-3">
      <Button large onClick={ask}>
        Let go here: the position now
      </Button>
      <span role="status" className="text-muted">
        {told}
      </span>
    </p>
  );
}

/** All that was said of it, in its order. */
function EventLog({ store, view, events, working }: PanelProps & { working: boolean }) {
  if (!events.length) return <p className="text-muted">No events recorded yet.</p>;
  return <EventLines label="Event log" store={store} view={view} events={events} working={working} />;
}
