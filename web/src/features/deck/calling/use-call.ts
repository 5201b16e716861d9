import { useCallback, useState } from "react";
import type { Schemas } from "@/api/client";
import { formatMm } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import type { DeckStore, DeckView } from "../document/deck-store";
import { correctFish } from "../operations/capture-edit";
import { keepFish } from "../operations/capture-record";
import { recordEvent } from "../operations/event-record";
import { alertsFor, limitsFor, pressureSeasons } from "../rules/alerts";
import type { Question, Repair } from "../rules/believability";
import { type Call, callText, LONGEST_NOTE } from "../rules/call-line";
import type { Recognised } from "../rules/marks";
import { ownLength } from "../rules/own-length";
import { bandFor, type GoesBy, protocolRows } from "../rules/protocol";
import type { Deck } from "../scope";
import { giveTag } from "../tagging/give-tag";
import { useDoubts, useReading } from "./use-reading";

type Capture = Schemas["Capture"];

/** Corrects a fish, and gives it the tags that were called with that. */
async function amend(
  store: DeckStore,
  fish: Capture,
  call: Call,
  evidence: string,
  questions: Schemas["AnsweredQuestion"][],
  tags: Recognised[],
) {
  await correctFish(store, fish, call, evidence, questions);
  for (const tag of tags) {
    const now = store.view.document.captures.find(({ id }) => id === fish.id) ?? fish;
    await giveTag(store, now, tag, tag.meaning === "stock");
  }
}

/** The call line's state: what is typed, what is understood, what is doubted, and what Enter does. */
export function useCall(store: DeckStore, { document: deck }: DeckView, run: Schemas["Run"] | undefined) {
  const last = deck.captures.at(-1);
  const [line, setText] = useState("");
  const [standing, setStanding] = useState<string | null>(last?.species ?? deck.species[0]?.code ?? null);
  const [chosen, setChosen] = useState<Capture | null>(null);
  const [evidence, setEvidence] = useState("");
  /** How often Enter was pressed on the line as it stands. */
  const [pressed, setPressed] = useState(0);

  const reading = useReading(deck, line, last, chosen, standing);
  const { table, amended, correcting, recognised, met, call, species } = reading;
  const { against, own, proposal, doubts } = useDoubts(deck, last, reading);

  const setLine = useCallback((text: string) => {
    setText(text);
    setPressed(0);
  }, []);

  const clear = useCallback(() => {
    setLine("");
    setChosen(null);
  }, [setLine]);

  /** Keeps the call, or the correction, and empties the line for the next fish. */
  function keep(kept: Call, questions: Schemas["AnsweredQuestion"][], into = run) {
    if (kept.species && !correcting) setStanding(kept.species);
    // the evidence of a fish that is called again from memory is what it was, unless another is touched now
    const seen = amended ? evidence || (last?.sex_evidence ?? "") : evidence;
    if (correcting) void amend(store, correcting, kept, seen, questions, recognised).catch(() => setLine(line));
    else void keepFish(store, into!, kept, evidence, questions, recognised).catch(() => setLine(line));
    clear();
  }

  const beyond = !call.note && against.find((each) => each.standing === "over")?.allowance;
  const carried = correcting && recognised.find((each) => each.meaning === "known" && each.fish.id !== correcting.fish);
  const complaint =
    complaintAbout(call, run, correcting) ??
    (carried ? `${markText(carried)} sits in another fish already: a fish met again is called anew.` : null) ??
    (beyond
      ? `${beyond.permit} allows no more ${beyond.species_name} ${beyond.what}. Say why after a semicolon, such as ; died in the net.`
      : null);
  /** A tag from stock was read, and nobody has said that the fish was scanned first. */
  const unscanned =
    !call.scanned &&
    !correcting?.scanned &&
    !met &&
    recognised.some(({ meaning }) => meaning !== "known" && (correcting || meaning === "stock"));
  /** A number alone: the Enter came from the reader, and the fish has yet to be measured. */
  const onlyScanned = call.marks.length > 0 && !call.length && !call.mass && !call.note && !call.release;
  const needed = onlyScanned ? 1 : timesAsked(doubts.questions);
  const refused = doubts.questions.some(({ weight }) => weight === "refuse");

  function enter() {
    if (call.empty) return;
    if (onlySpecies(call) && !correcting) {
      setStanding(call.species); // a species alone: the next fish are of it
      clear();
    } else if (complaint || unscanned || refused || pressed < needed) {
      // a number typed by hand or by a slow reader: the length that follows must not run on from it
      if (onlyScanned) setText(`${line.trimEnd()} `);
      setPressed(pressed + 1);
    } else {
      keep(
        call,
        doubts.questions.map(({ code }) => ({ code, answer: "kept as called" })),
      );
    }
  }

  /** A fish that was caught in a run which has ended meanwhile, maybe on another tablet, belongs there. */
  function keepIn(ended: Schemas["Run"]) {
    if (complaintAbout(call, ended, correcting) || unscanned || refused || pressed < needed) setPressed(pressed + 1);
    else
      keep(
        call,
        doubts.questions.map(({ code }) => ({ code, answer: "kept as called" })),
        ended,
      );
  }

  function repair({ code, fish }: Repair) {
    if (complaint || unscanned) return setPressed(pressed + 1);
    const called = [call.length?.text, call.mass?.text].filter(Boolean).join(" ").slice(0, 40);
    keep(
      { ...call, length: repaired(fish.length, "mm", call.length), mass: repaired(fish.mass, "g", call.mass) },
      doubts.questions.map((question) => ({ code: question.code, answer: code, called })),
    );
  }

  /** The fish stays in the record with its number as called in the note, and without a length. */
  function keepWithoutLength() {
    const note = `called ${call.length?.text}${call.note ? `; ${call.note}` : ""}`.slice(0, LONGEST_NOTE);
    keep({ ...call, length: null, note }, [
      { code: "length_impossible", answer: "kept without length", called: call.length?.text },
    ]);
  }

  /** A number from a reader, wherever the cursor was. */
  const scan = useCallback((number: string) => {
    setText((text) => (text.includes(number) ? text : `${text.trimEnd()} ${number} `.trimStart()));
    setPressed(0);
  }, []);
  /** Words from an instrument, behind what stands on the line. */
  const insert = useCallback((words: string) => {
    setText((text) => `${text.trimEnd()} ${words} `.trimStart());
    setPressed(0);
  }, []);
  const sayScanned = useCallback(() => {
    setText((text) => (/(^|\s)none(\s|$)/.test(text) ? text : `${text.trimEnd()} none `.trimStart()));
    setPressed(0);
  }, []);

  const correct = useCallback(
    (capture: Capture) => {
      setChosen(capture);
      setEvidence(capture.sex_evidence);
      setLine(callText(capture, store.view.document.outing));
    },
    [setLine, store],
  );

  const kept = deck.captures.reduce(
    (sum, each) => sum + (each.species === call.species && each.release === "kept" ? each.count : 0),
    0,
  );
  return {
    line,
    setLine,
    call,
    species,
    doubts,
    against,
    own,
    head: own && call.species ? bandFor(protocolRows(deck, "tag_heads"), call.species, own.mm) : null,
    boarding: own && call.species ? boardingOf(deck, call.species, own.mm) : null,
    goesBy: deck as GoesBy,
    proposal,
    alerts: call.species
      ? [
          ...alertsFor(protocolRows(deck, "alerts"), call.species, own?.mm ?? null),
          ...(call.sex && evidence === "pressure" ? outOfSeason(deck, call.species) : []),
        ]
      : [],
    limits: call.species
      ? limitsFor(protocolRows(deck, "closed_species"), call.species, deck.outing.date.slice(5), kept)
      : [],
    record: own && !correcting && !call.length?.estimated ? largestSoFar(deck, call.species!, own.mm) : null,
    kept,
    proved: deck.events.some(({ kind, details }) => kind === "reader_proved" && details.read === "yes"),
    proveReader: () => void recordEvent(store, "outing", "reader_proved", { read: "yes" }),
    complaint,
    recognised,
    table,
    unscanned,
    scan,
    insert,
    sayScanned,
    pressed,
    needed,
    refused,
    correcting,
    evidence,
    setEvidence,
    standing,
    setStanding,
    enter,
    keepIn,
    repair,
    keepWithoutLength,
    correct,
    clear,
  };
}

/** What a fish that is longer than all before it in this water is told with; null for any other. */
function largestSoFar(deck: Deck, code: string, mm: number): string | null {
  const kind = deck.species.find((each) => each.code === code);
  const here = deck.captures.filter(({ species, length_basis }) => species === code && length_basis === "measured");
  // as it is called: a fork length is held against nothing but its own kind
  const own = here.map(({ length_mm, length_type }) =>
    kind && length_mm !== null ? (ownLength(length_mm, length_type ?? "", kind)?.mm ?? 0) : 0,
  );
  const before = Math.max(kind?.longest_mm ?? 0, ...own);
  return before > 0 && mm > before ? `before ${formatMm(before)}` : null;
}

/** Sex by pressure on a day on which it shows nothing, by the protocol. */
function outOfSeason(deck: Deck, species: string): string[] {
  const seasons = pressureSeasons(protocolRows(deck, "sexing"), species, deck.outing.date.slice(5));
  return seasons.length ? [`sex by pressure only ${seasons.join(", ")}: another evidence?`] : [];
}

/** Where the protocol has a fish of this length handled; nothing where it does not say. */
function boardingOf(deck: GoesBy, species: string, mm: number): { where: string; how: string } | null {
  const row = bandFor(protocolRows(deck, "boarding"), species, mm);
  return row && { where: row.where === "not" ? "not handled" : String(row.where), how: String(row.how ?? "") };
}

/** How often Enter is asked for again. */
function timesAsked(questions: readonly Question[]): number {
  if (questions.some(({ weight }) => weight === "ask twice")) return 2;
  return questions.length ? 1 : 0;
}

/** A species alone: the next fish are of it. */
const onlySpecies = (call: Call) =>
  call.speciesCalled &&
  call.count === 1 &&
  ![call.length, call.mass, call.scanned, call.note].some(Boolean) &&
  !call.marks.length &&
  !call.problems.length;

/** A figure as a repair has it; what it leaves as it is stays as it was called. */
function repaired(value: number | null, unit: string, before: Call["length"]): Call["length"] {
  if (value === null || value === before?.value) return value === null ? null : before;
  return { text: `${value} ${unit}`, unit, value, estimated: before?.estimated ?? false };
}

export type CallState = ReturnType<typeof useCall>;

/** That nothing was found, and no word on which fish: it is not the next one of the species that stands. */
const isScanAlone = (call: Call) =>
  call.scanned === "none" &&
  !call.speciesCalled &&
  call.count === 1 &&
  ![call.length, call.mass, call.note, call.release, call.sex].some(Boolean) &&
  !call.marks.length;

function complaintAbout(call: Call, run: Schemas["Run"] | undefined, correcting: Capture | null): string | null {
  if (call.empty) return null;
  if (!run && !correcting) return "No run in progress. Start a run, then save this fish.";
  if (call.problems.length) return call.problems[0]!;
  if (!call.species) return "Call the species first, such as wal.";
  if (!correcting && isScanAlone(call))
    return "Scanned, nothing found: which fish? Call its length, or its species alone.";
  return null;
}
