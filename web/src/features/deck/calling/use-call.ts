import { useCallback, useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { markText } from "@/ui/words/mark-text";
import type { DeckStore, DeckView } from "../document/deck-store";
import { correctFish } from "../operations/capture-edit";
import { keepFish } from "../operations/capture-record";
import { sayEvent } from "../operations/event-say";
import { type Doubts, judge, type Repair, shrank } from "../rules/believability";
import { amendedCall, type Call, callText, LONGEST_NOTE, readCall, repeatedLine } from "../rules/call-line";
import { marksAfter, markTable, type Recognised } from "../rules/marks";
import { smallForTag } from "../rules/orders";
import { permitQuestion, permitsAgainst, permitsForTag } from "../rules/permits";
import { bandFor, type GoesBy, protocolRows } from "../rules/protocol";
import { tagProposal } from "../rules/tagging";
import { giveTag } from "../tagging/give-tag";

type Capture = Schemas["Capture"];

const NO_DOUBTS: Doubts = { questions: [], repairs: [] };

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

  const marks = useMemo(
    () => marksAfter(deck.marks, deck.captures, deck.outing.id, new Date().toISOString()),
    [deck.marks, deck.captures, deck.outing.id],
  );
  const settings = useMemo(
    () => ({
      species: deck.species,
      units: deck.units,
      lengthUnit: deck.outing.length_unit ?? "mm",
      massUnit: deck.outing.mass_unit ?? "g",
      takenTo: protocolRows({ protocol: deck.protocol }, "taken_to").map(({ code }) => String(code)),
      stock: marks.stock,
    }),
    [deck.species, deck.units, deck.outing, deck.protocol, marks.stock],
  );
  const amended = useMemo(
    () => (last && !chosen ? amendedCall(line, last, settings) : null),
    [line, last, chosen, settings],
  );
  /** The fish that is called again: the one that was chosen, or the last one where the line says "last was". */
  const correcting = chosen ?? (amended ? (last ?? null) : null);
  const read = useMemo(
    () =>
      amended ??
      readCall(
        (last && !chosen && repeatedLine(line, last, settings)) || line,
        settings,
        correcting?.species ?? standing,
      ),
    [amended, line, settings, standing, correcting, last, chosen],
  );
  const table = useMemo(() => markTable(marks), [marks]);
  const recognised = useMemo(() => read.marks.map(table.recognise), [read.marks, table]);
  const met = recognised.find((each) => each.meaning === "known")?.fish;
  // a fish met again is of its own species, unless another was called
  const call = useMemo(() => (met && !read.speciesCalled ? { ...read, species: met.species } : read), [met, read]);
  const species = deck.species.find(({ code }) => code === call.species);
  const against = useMemo(() => {
    if (call.empty) return [];
    if (!correcting) return permitsAgainst(deck, call);
    return call.marks.length ? permitsForTag(deck, correcting) : [];
  }, [deck, call, correcting]);
  const doubts = useMemo(() => {
    if (!species) return NO_DOUBTS;
    const fish = { length: call.length?.value ?? null, mass: call.mass?.value ?? null };
    const before = last && !correcting ? { length: last.length_mm, mass: last.mass_g } : null;
    const { questions, repairs } = judge(species, fish, deck.slips, before);
    const small = smallForTag(deck, fish.length, recognised);
    const then = met?.last?.length_mm;
    // measured, and in the length type of then; a correction is of the fish as it was met, not of one met again
    const alike = call.length?.estimated === false && (!call.lengthType || call.lengthType === species.length_type);
    const shorter = then != null && alike && !correcting ? shrank(then, call.length!.value) : null;
    return {
      questions: [...questions, ...[small, shorter, permitQuestion(against)].filter((each) => each !== null)],
      repairs,
    };
  }, [call, species, deck, recognised, met, last, correcting, against]);

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
  const needed = onlyScanned
    ? 1
    : doubts.questions.some(({ weight }) => weight === "ask twice")
      ? 2
      : doubts.questions.length
        ? 1
        : 0;
  const refused = doubts.questions.some(({ weight }) => weight === "refuse");

  function enter() {
    if (call.empty) return;
    if (
      call.speciesCalled &&
      !call.length &&
      !call.mass &&
      !call.marks.length &&
      !call.scanned &&
      !call.note &&
      call.count === 1 &&
      !call.problems.length &&
      !correcting
    ) {
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
    const amount = (value: number | null, unit: string, before: Call["length"]) =>
      value === null
        ? null
        : value === before?.value
          ? before
          : { text: `${value} ${unit}`, unit, value, estimated: before?.estimated ?? false };
    const called = [call.length?.text, call.mass?.text].filter(Boolean).join(" ").slice(0, 40);
    keep(
      { ...call, length: amount(fish.length, "mm", call.length), mass: amount(fish.mass, "g", call.mass) },
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

  return {
    line,
    setLine,
    call,
    species,
    doubts,
    against,
    boarding: call.length && call.species ? boardingOf(deck, call.species, call.length.value) : null,
    goesBy: deck as GoesBy,
    proposal: call.length && call.species && !met ? tagProposal(deck, call.species, call.length.value, run) : null,
    kept: deck.captures.reduce(
      (sum, each) => sum + (each.species === call.species && each.release === "kept" ? each.count : 0),
      0,
    ),
    proved: deck.events.some(({ kind, said }) => kind === "reader_proved" && said.read === "yes"),
    proveReader: () => void sayEvent(store, "outing", "reader_proved", { read: "yes" }),
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

/** Where the protocol has a fish of this length handled; nothing where it does not say. */
function boardingOf(deck: GoesBy, species: string, mm: number): { where: string; how: string } | null {
  const row = bandFor(protocolRows(deck, "boarding"), species, mm);
  return row && { where: row.where === "not" ? "not handled" : String(row.where), how: String(row.how ?? "") };
}

export type CallState = ReturnType<typeof useCall>;

function complaintAbout(call: Call, run: Schemas["Run"] | undefined, correcting: Capture | null): string | null {
  if (call.empty) return null;
  if (!run && !correcting) return "No run is going. Start a run, then keep this fish.";
  if (call.problems.length) return call.problems[0]!;
  if (!call.species) return "Call the species first, such as wal.";
  return null;
}
