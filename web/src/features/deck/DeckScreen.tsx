import { useCallback, useMemo, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { plural } from "@/ui/words/format";
import { hasRods } from "@/ui/words/gears";
import { CallLine } from "./calling/CallLine";
import { InstrumentChips } from "./calling/InstrumentChips";
import { LookAlikes } from "./calling/LookAlikes";
import { MeasuringBoard } from "./calling/MeasuringBoard";
import { TouchPad } from "./calling/TouchPad";
import { useCall } from "./calling/use-call";
import { useDeckKeys } from "./calling/use-deck-keys";
import { usePedal } from "./calling/use-pedal";
import { useReader } from "./calling/use-reader";
import { useTouchPad } from "./calling/use-touch-pad";
import { DeckState } from "./document/DeckState";
import type { DeckStore } from "./document/deck-store";
import { useDeckStore, useDeckView } from "./document/use-deck";
import { FishList } from "./fish/FishList";
import { FishStory } from "./fish/FishStory";
import { byLaneWords, goingOf } from "./handling/going";
import { LaneStrip } from "./handling/LaneStrip";
import { LeavingSheet } from "./handling/LeavingSheet";
import { deleteFish } from "./operations/capture-delete";
import { restoreFish } from "./operations/capture-restore";
import { takeOutEvent } from "./operations/event-edit";
import { recordEvent } from "./operations/event-record";
import { releaseFish } from "./operations/release-set";
import { editRun } from "./operations/run-edit";
import { takeTagIn } from "./operations/tag-take-in";
import { OutingBar } from "./outing/OutingBar";
import { RefusedEntries } from "./outing/RefusedEntries";
import { bathsOf } from "./rules/baths";
import { type Lane, lanesOf, mostPressing, nextLane, type Token } from "./rules/lanes";
import type { Leaving } from "./rules/leaving";
import { toSign } from "./rules/orders";
import { protocolRows } from "./rules/protocol";
import { askedAtEnd } from "./rules/run-end";
import { tagLimit } from "./rules/tagging";
import { RunBar } from "./runs/RunBar";
import { RunsToCorrect } from "./runs/RunsToCorrect";
import {
  BathSheet,
  FishSheet,
  LaneSheet,
  OneHandSheet,
  ReleaseAllSheet,
  RunEndSheet,
  RunSheet,
  SigningSheet,
} from "./sheets";

type Capture = Schemas["Capture"];

/** The outing as it happens. */
export function DeckScreen({ outingId, fish }: { outingId: string; fish?: string }) {
  const { person } = useHere();
  const { store, failure } = useDeckStore(outingId, person);
  if (failure)
    return (
      <main className="p-6">
        <ErrorMessage failure={failure} />
      </main>
    );
  if (!store) return <main className="p-6 text-muted">Opening the outing...</main>;
  return <WorkingDeck store={store} fish={fish} />;
}

interface WorkingProps {
  store: DeckStore;
  /** A deck that leaves no trace: what is of a real outing alone is not there. */
  practice?: boolean;
  /** The outing under whose name instruments are heard, where that is another. */
  heardAs?: string;
  /** Told once it is known whether instruments are heard. */
  onInstruments?: () => void;
  /** The fish whose sheet is open at first. */
  fish?: string;
}

export function WorkingDeck({ store, practice = false, heardAs, onInstruments, fish }: WorkingProps) {
  const { may, person, membership } = useHere();
  const view = useDeckView(store);
  const { document: deck } = view;
  const run = deck.runs.findLast((each) => each.ended_at === null);
  // a volunteer records on outings of their own
  const theirs = membership.role !== "volunteer" || practice || deck.outing.opened_by === person.id;
  const working = deck.outing.state === "open" && may("work_deck") && theirs;
  /** What was recorded may be changed: on deck, or at the desk afterwards. */
  const editing = working || view.correcting !== null;
  const call = useCall(store, view, run);
  const [pad, turnPad] = useTouchPad();
  const [oneHand, setOneHand] = useState(false);
  const [sheet, setSheet] = useState<"run" | "sign" | "all" | null>(null);
  /** A run that has just ended, of which the protocol wants more. */
  const [ended, setEnded] = useState<string | null>(null);
  const pedal = usePedal(store, run);
  // no current before the checklists are signed; a pedal that is down can always be lifted
  const press = () => (pedal.downSince === null && toSign(deck).length > 0 ? setSheet("sign") : pedal.toggle());
  const input = useRef<HTMLInputElement>(null);
  const shown = call.species ?? deck.species[0]!;

  const undo = () => {
    const last = store.view.document.captures.at(-1);
    if (last) remove(store, last);
  };
  const startOrEnd = () => {
    if (!run) return setSheet("run");
    void pedal.lift();
    void editRun(store, run, { ended_at: new Date().toISOString() });
    if (askedAtEnd(protocolRows(deck, "run_figures"), run).length) setEnded(run.id);
    notify(`Run ${run.number} ended.`, () => void editRun(store, run, { ended_at: null }));
  };

  const { correct } = call;
  const onCorrect = useCallback(
    (capture: Capture) => {
      correct(capture);
      input.current?.focus();
    },
    [correct],
  );
  const onDelete = useCallback((capture: Capture) => remove(store, capture), [store]);

  const releaseAll = useCallback(() => {
    const { all, doubtful } = goingOf(store.view.document, Date.now() / 1000);
    if (doubtful.length) setSheet("all");
    else if (all.length) letGo(store, all);
  }, [store]);
  const [leaving, setLeaving] = useState<Capture | null>(null);
  const [opened, setOpened] = useState<{ id: string; tab?: "lanes" | "release" } | null>(fish ? { id: fish } : null);
  const [bathing, setBathing] = useState(false);
  /** Fish of a lane of which something is to be recorded at once. */
  const [treated, setTreated] = useState<Token[] | null>(null);
  const move = useCallback((tokens: Token[], to: Lane | null) => moveOn(store, tokens, to, setOpened), [store]);
  const openToken = useCallback(({ capture }: Token) => setOpened({ id: capture.id }), []);
  const openFish = useCallback((capture: Capture) => setOpened({ id: capture.id }), []);
  const openBaths = useCallback(() => setBathing(true), []);
  const bath = useMemo(() => bathWords(deck.events), [deck.events]);
  const withFirst = (then: (token: Token) => void) => {
    const first = mostPressing(store.view.document);
    if (first) then(first);
  };
  const firstOn = () => withFirst((token) => move([token], nextLane(lanesOf(store.view.document), token.lane.code)));
  const openFirst = () => withFirst(openToken);
  const fishOn = () => {
    if (run && hasRods(run.gear)) void recordEvent(store, { run: run.id }, "hooked");
  };
  const sign = useCallback(() => setSheet("sign"), []);
  const onRelease = useCallback(
    (capture: Capture, leaving: Leaving) => void releaseFish(store, [capture.id], leaving),
    [store],
  );
  useReader(working, (number) => {
    call.scan(number);
    input.current?.focus();
  });

  useDeckKeys({ working, store, call, input, press, startOrEnd, releaseAll, undo, firstOn, openFirst, fishOn });

  return (
    <main className="flex min-h-[calc(100dvh-49px)] flex-col">
      {!practice && <OutingBar store={store} view={view} working={working} onSign={sign} />}
      <DeckState view={view} />
      <RefusedEntries store={store} view={view} onMend={onCorrect} />
      {working && (
        <RunBar store={store} view={view} run={run} pedal={{ ...pedal, toggle: press }} onStartOrEnd={startOrEnd} />
      )}
      {view.correcting && <RunsToCorrect store={store} view={view} />}
      {(!view.correcting || call.correcting) && (
        <MeasuringBoard
          species={shown}
          tagFrom={tagLimit(deck, shown.code)?.mm ?? null}
          captures={deck.captures}
          preview={call.call.length?.value ?? null}
          doubted={call.doubts.questions.length > 0}
        />
      )}
      {(working || (editing && call.correcting)) && (
        <CallLine
          ref={input}
          state={call}
          units={deck.outing}
          hasRun={run !== undefined}
          ended={deck.runs.at(-1)}
          onStartRun={() => setSheet("run")}
          pad={pad}
          onPad={turnPad}
          onOneHand={() => setOneHand(true)}
          instruments={
            working && (
              <InstrumentChips
                store={store}
                outing={heardAs ?? deck.outing.id}
                practice={practice}
                run={run}
                last={deck.captures.at(-1)}
                onCall={call.insert}
                onAsked={onInstruments}
              />
            )
          }
        />
      )}
      {working && <LookAlikes call={call.call} species={call.species} />}
      {working && (
        <FishStory
          state={call}
          outing={deck.outing.id}
          site={run?.site}
          onTakeIn={(mark) => void takeTagIn(store, mark)}
        />
      )}
      {working && (
        <LaneStrip view={view} bath={bath} onMove={move} onOpen={openToken} onBaths={openBaths} onTreat={setTreated} />
      )}
      <div
        data-wide={!(working && pad)}
        className={`group/list grid flex-1 gap-x-5 px-4 max-lg:content-start ${working && pad ? "lg:grid-cols-[minmax(0,11fr)_minmax(0,10fr)]" : ""}`}
      >
        {working && pad && <TouchPad state={call} species={deck.species} focusLine={() => input.current?.focus()} />}
        <FishList
          view={view}
          run={run}
          working={editing}
          correcting={call.correcting?.id}
          onCorrect={onCorrect}
          onDelete={onDelete}
          onRelease={onRelease}
          onReleaseAll={releaseAll}
          onLeaving={setLeaving}
          onOpen={openFish}
        />
      </div>
      {oneHand && working && (
        <OneHandSheet
          state={call}
          view={view}
          species={deck.species}
          hasRun={run !== undefined}
          ended={deck.runs.at(-1)}
          onStartRun={() => setSheet("run")}
          onClose={() => setOneHand(false)}
        />
      )}
      {leaving && <LeavingSheet store={store} view={view} capture={leaving} onClose={() => setLeaving(null)} />}
      {opened && (
        <FishSheet
          store={store}
          view={view}
          working={editing}
          captureId={opened.id}
          tab={opened.tab}
          onClose={() => setOpened(null)}
        />
      )}
      {treated && <LaneSheet store={store} view={view} tokens={treated} onClose={() => setTreated(null)} />}
      {bathing && <BathSheet store={store} view={view} onClose={() => setBathing(false)} />}
      {sheet === "run" && <RunSheet store={store} view={view} onClose={() => setSheet(null)} />}
      {sheet === "all" && (
        <ReleaseAllSheet view={view} onRelease={(tokens) => letGo(store, tokens)} onClose={() => setSheet(null)} />
      )}
      {ended && <RunEndSheet store={store} view={view} id={ended} onClose={() => setEnded(null)} />}
      {sheet === "sign" && <SigningSheet store={store} view={view} onClose={() => setSheet(null)} />}
    </main>
  );
}

function remove(store: DeckStore, capture: Capture) {
  void deleteFish(store, capture);
  notify(`Took out ${capture.species} ${capture.length_text}.`, () => void restoreFish(store, capture));
}

/** Fish go as released; how many of which lanes is said. */
function letGo(store: DeckStore, tokens: readonly Token[]) {
  const ids = tokens.map(({ capture }) => capture.id);
  void releaseFish(store, ids, { fate: "released" });
  notify(`Released: ${byLaneWords(tokens)}.`, () => void releaseFish(store, ids, { fate: null }));
}

/** Fish go on into a lane; out of the boat they go with a word on how: one fish by its sheet, several as released. */
function moveOn(
  store: DeckStore,
  tokens: Token[],
  to: Lane | null,
  open: (fish: { id: string; tab: "release" }) => void,
) {
  const ids = tokens.map(({ capture }) => capture.id);
  if (!to) {
    if (ids.length === 1) return open({ id: ids[0]!, tab: "release" });
    return letGo(store, tokens);
  }
  void recordEvent(store, ids.length === 1 ? { capture: ids[0]! } : { captures: ids }, "lane", { lane: to.code });
  const made = store.view.document.events.filter(({ capture }) => capture && ids.includes(capture)).slice(-ids.length);
  const whom =
    ids.length === 1
      ? `${tokens[0]!.capture.species} ${tokens[0]!.capture.length_text}`
      : plural(ids.length, "entry", "entries");
  notify(`${whom} to ${to.word}.`, () => made.forEach((event) => void takeOutEvent(store, event, true)));
}

/** The bath that was filled last, with its strength. */
function bathWords(events: Parameters<typeof bathsOf>[0]["events"]): string {
  const [name, { bath }] = [...bathsOf({ events })].at(-1) ?? ["", { bath: null }];
  if (!bath || bath.litres === null) return "";
  return bath.agent === "none" ? name : `${name} ${bath.mg_l.toFixed(0)} mg/L`;
}
