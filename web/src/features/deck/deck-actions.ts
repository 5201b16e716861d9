import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";
import type { Call, Release } from "./call-line";
import type { DeckStore } from "./deck-store";
import type { Recognised } from "./marks";

type Capture = Schemas["Capture"];
type Run = Schemas["Run"];
type AnsweredQuestion = Schemas["AnsweredQuestion"];

/** Everything the Deck can do to the record: each becomes one operation of the store. */

export function keepFish(
  store: DeckStore,
  run: Run,
  call: Call,
  evidence: string,
  questions: AnsweredQuestion[],
  recognised: Recognised[] = [],
): Promise<unknown> {
  const id = uuidv7();
  const met = recognised.find(({ meaning }) => meaning !== "stock");
  const scanned = met ? met.meaning : call.scanned;
  const shown: Capture = {
    ...shownCapture(id, run.id, new Date().toISOString(), call, evidence, questions),
    fish: met?.meaning === "known" ? met.fish.id : null,
    scanned: scanned as Capture["scanned"],
    scan_text: met ? `${met.kind} ${met.number}` : "",
  };
  const scan = met ? { scanned: "number", scan_kind: met.kind, scan: met.number } : { scanned: call.scanned };
  const kept = [
    store.add({
      id,
      kind: "capture.record",
      row: { run: run.id, ...calledRow(call, evidence, questions), ...scan },
      shown,
    }),
  ];
  let placed: Capture["placed"] = [];
  for (const { kind, number, meaning } of recognised) {
    if (meaning !== "stock") continue;
    placed = [...placed, { kind, number }];
    kept.push(store.add({ kind: "tag.place", row: { capture: id, kind, number }, shown: { ...shown, placed } }));
  }
  if (call.release) kept.push(releaseFish(store, [id], call.release));
  return Promise.all(kept);
}

/** Says how fish left the boat; an empty code takes that back: they are aboard. */
export function releaseFish(store: DeckStore, captures: string[], code: Release): Promise<void> {
  return store.add({ kind: "release.set", row: { captures, code: code || null } });
}

/** Calls a fish again: the new call replaces the old one, which stays in its history. */
export function correctFish(
  store: DeckStore,
  old: Capture,
  call: Call,
  evidence: string,
  questions: AnsweredQuestion[],
): Promise<void> {
  return store.add({
    kind: "capture.edit",
    reason: "corrected on deck",
    row: { capture: old.id, ...calledRow(call, evidence, questions) },
    shown: {
      ...shownCapture(old.id, old.run, old.device_time, call, evidence, questions),
      fish: old.fish,
      scanned: old.scanned,
      scan_text: old.scan_text,
      release: old.release,
      placed: old.placed,
    },
  });
}

export function deleteFish(store: DeckStore, capture: Capture): Promise<void> {
  return store.add({ kind: "capture.delete", row: { capture: capture.id } });
}

export function restoreFish(store: DeckStore, capture: Capture): Promise<void> {
  return store.add({ kind: "capture.restore", row: { capture: capture.id }, shown: capture });
}

export type RunSettings = Pick<Run, "volts" | "amps" | "pulse_hz" | "pulse_width_ms">;

export function startRun(store: DeckStore, site: string, gear: Run["gear"], settings: RunSettings): Promise<void> {
  const { outing, runs } = store.view.deck;
  const id = uuidv7();
  const started_at = new Date().toISOString();
  const number = Math.max(0, ...runs.map((run) => run.number)) + 1;
  return store.add({
    id,
    kind: "run.start",
    row: { outing: outing.id, site, gear, started_at, ...settings },
    shown: { id, outing: outing.id, site, gear, number, current_on_s: 0, started_at, ended_at: null, ...settings },
  });
}

export function editRun(store: DeckStore, run: Run, values: Partial<Run>): Promise<void> {
  return store.add({ kind: "run.edit", row: { run: run.id, ...values } });
}

export type WaterFigures = Pick<
  Schemas["WaterReading"],
  "temperature_c" | "ambient_us_cm" | "specific_us_cm" | "oxygen_mg_l" | "secchi_m"
>;

export function recordWater(store: DeckStore, figures: WaterFigures): Promise<void> {
  const id = uuidv7();
  const outing = store.view.deck.outing.id;
  return store.add({
    id,
    kind: "water.record",
    row: { outing, ...figures },
    shown: { id, outing, run: null, device_time: new Date().toISOString(), ...figures },
  });
}

/** Signs a checklist by name; with `signed` false it is passed over, and the note says why. */
export function signChecklist(
  store: DeckStore,
  checklist: string,
  signature: { name: string; note: string; signed: boolean },
): Promise<void> {
  return store.add({ kind: "checklist.sign", row: { outing: store.view.deck.outing.id, checklist, ...signature } });
}

function calledRow(call: Call, evidence: string, questions: AnsweredQuestion[]) {
  return {
    species: call.species,
    count: call.count,
    length: call.length?.text ?? "",
    length_type: call.lengthType,
    mass: call.mass?.text ?? "",
    sex: call.sex,
    sex_evidence: call.sex === "f" || call.sex === "m" ? evidence : "",
    note: call.note,
    questions,
  };
}

function shownCapture(
  id: string,
  run: string,
  device_time: string,
  call: Call,
  evidence: string,
  questions: AnsweredQuestion[],
): Capture {
  const basis = (amount: Call["length"]) => (amount ? (amount.estimated ? "estimated" : "measured") : "");
  const sex = call.sex || "u";
  return {
    id,
    run,
    device_time,
    species: call.species!,
    count: call.count,
    length_mm: call.length?.value ?? null,
    length_type: call.lengthType,
    length_basis: basis(call.length),
    length_text: call.length?.text ?? "",
    mass_g: call.mass?.value ?? null,
    mass_basis: basis(call.mass),
    mass_text: call.mass?.text ?? "",
    sex,
    sex_evidence: sex === "u" ? "" : evidence,
    note: call.note,
    questions,
    fish: null,
    scanned: "",
    scan_text: "",
    release: "",
    placed: [],
  };
}
