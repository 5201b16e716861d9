import { Tabs } from "radix-ui";
import { useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { formatGrams, formatMm, formatSeconds } from "@/ui/format";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { DepthPanel } from "./DepthPanel";
import type { DeckStore, DeckView } from "./deck-store";
import { EventForm } from "./EventForm";
import { EventLines } from "./EventLines";
import { type Event, type EventKind, eventsOf, lastOf, type Said, saidOfRun, saidWords } from "./events";
import { sayEvent } from "./operations/event-say";
import { releaseFish } from "./operations/release-set";
import { Photos } from "./Photos";
import { whereNow } from "./position";
import { inductionOf } from "./rules/baths";
import { aboardOf, handLimitsFor, lanesOf, momentsOf, standOf } from "./rules/lanes";
import { leavingOf, leavingWords, waysToLeave } from "./rules/leaving";
import { SurgeryPanel } from "./SurgeryPanel";
import { TagPanel } from "./TagPanel";
import { useNow } from "./use-now";

export interface PanelProps {
  store: DeckStore;
  view: DeckView;
  capture: Schemas["Capture"];
  events: Event[];
  say: (what: string, said: Said) => void;
}

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
  ["depth", "From depth"],
  ["photos", "Photos"],
  ["release", "Goes"],
  ["all", "All said"],
] as const;
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
  const say = (what: string, said: Said) => void sayEvent(store, { capture: captureId }, what, said);
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
        lastOf(events, "private")?.said.name
          ? `Name: ${lastOf(events, "private")!.said.name}`
          : "What is touched here is kept at once, with its time."
      }
    >
      <Clocks {...panel} working={working} />
      {!working && (
        <>
          <AllSaid {...panel} working={false} />
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
                <AllSaid {...panel} working />
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

/** Whose hands a fish is likely in: those that were named for its run. */
function handsOf({ document: deck }: DeckView, run: string): Said {
  const { measurer, surgeon } = saidOfRun(deck.events, run, "hands_on");
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
  if (gone) return <p className="font-semibold">It left: {leavingWords(view.document, leavingOf(capture))}.</p>;
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
          {induction < fast && "! "}lay still after {formatSeconds(induction)}
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

interface KindsProps {
  groups: string[];
  only?: string[];
  /** None is open at first. */
  folded?: boolean;
  /** What is likely to be said, by kind; it stands in the fields until it is kept. */
  offered?: Record<string, Said>;
}

/** Kinds of event of some groups, each opened by a touch on its name; what was said of it last stands beside. */
export function Kinds({ view, events, say, groups, only, offered = {}, folded = false }: PanelProps & KindsProps) {
  const kinds = view.document.event_kinds.filter(
    ({ about, group, code }) =>
      about === "fish" && groups.includes(group) && code !== "air" && (!only || only.includes(code)),
  );
  // what one touch says is always in sight; of the others one at a time, the first of which nothing was said yet
  const next = kinds.find(({ code }) => !lastOf(events, code));
  const [open, setOpen] = useState<string | null>(
    folded || kinds.some(isOneTouch) || next !== kinds[0] ? null : (next?.code ?? null),
  );
  return (
    <div className="grid gap-1">
      {kinds.map((kind) => (
        <OneKind
          key={kind.code}
          kind={kind}
          open={open === kind.code}
          onOpen={() => setOpen(open === kind.code ? null : kind.code)}
          view={view}
          events={events}
          say={say}
          offered={offered[kind.code]}
        />
      ))}
    </div>
  );
}

const isOneTouch = ({ fields }: EventKind) => fields.length === 1 && fields[0]!.choices.length > 0 && !fields[0]!.many;

interface OneKindProps extends Pick<PanelProps, "view" | "events" | "say"> {
  kind: EventKind;
  open: boolean;
  offered: Said | undefined;
  onOpen: () => void;
}

function OneKind({ kind, open, offered, onOpen, view, events, say }: OneKindProps) {
  const said = events.filter((each) => each.kind === kind.code);
  const told = (kind.once ? said.slice(-1) : said).map((each) => saidWords(view.document, each)).join("; ");
  const before = kind.once ? said.at(-1) : undefined;
  const empty = kind.fields.some((field) => field.needed && field.of_protocol && !field.choices.length);
  const nothing = (
    <p className="text-sm text-muted">The protocol names none of these; a lead enters them in Settings.</p>
  );
  if (isOneTouch(kind))
    return (
      <section
        aria-label={kind.title}
        className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-1"
      >
        <h3 className="w-44 font-semibold">{kind.title}</h3>
        {empty ? (
          nothing
        ) : (
          <EventForm
            key={said.length}
            kind={kind}
            before={before?.said as Said | undefined}
            onSay={(all) => say(kind.code, all)}
          />
        )}
        {!kind.once && <span className="text-muted">{told}</span>}
      </section>
    );
  return (
    <section aria-label={kind.title} className="border-b border-line">
      <button
        type="button"
        aria-expanded={open}
        className="flex min-h-[44px] w-full cursor-pointer items-center gap-3 text-left"
        onClick={onOpen}
      >
        <span className="font-semibold">
          {open ? "▾" : "▸"} {kind.title}
        </span>
        <span className="text-muted">{told}</span>
      </button>
      {open && (
        <div className="pb-2">
          {empty ? (
            nothing
          ) : (
            <EventForm
              key={said.length}
              kind={kind}
              before={{ ...offered, ...(before?.said as Said | undefined) }}
              onSay={(all) => {
                say(kind.code, all);
                if (kind.once) onOpen(); // it is said: what comes next is in sight
              }}
            />
          )}
        </div>
      )}
    </section>
  );
}

/** Into any lane, by one touch. */
function ToLane({ view, events, say }: PanelProps) {
  const lanes = lanesOf(view.document);
  const now = lastOf(events, "lane")?.said.lane ?? lanes[0]?.code;
  return (
    <fieldset className="mb-1 flex flex-wrap items-center gap-1.5" aria-label="It stands in">
      <legend className="sr-only">It stands in</legend>
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
function Leaves({ store, view, capture, onClose }: PanelProps & { onClose: () => void }) {
  const ways = waysToLeave(view.document);
  const now = leavingOf(capture);
  return (
    <fieldset className="mb-3" aria-label="It goes">
      <legend className="sr-only">It goes</legend>
      <div className="flex flex-wrap gap-1.5">
        {ways.slice(1).map(({ key, leaving }) => (
          <Button
            key={key}
            large
            look={now.fate === leaving.fate && (now.strength ?? null) === (leaving.strength ?? null) ? "ink" : "plain"}
            onClick={() => {
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
    </fieldset>
  );
}

/** Where it was let go, by a GPS on a cable or this tablet; words that were said of the place stay. */
function HereByPosition({ events, say }: PanelProps) {
  const [told, setTold] = useState("");
  const before = (lastOf(events, "let_go")?.said ?? {}) as Said;
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
function AllSaid({ store, view, events, working }: PanelProps & { working: boolean }) {
  if (!events.length) return <p className="text-muted">Nothing was said of it yet but its call.</p>;
  return <EventLines label="All said" store={store} view={view} events={events} working={working} />;
}
