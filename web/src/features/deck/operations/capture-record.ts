import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";
import { put } from "@/offline/rows";
import type { DeckStore } from "../document/deck-store";
import type { Call } from "../rules/call-line";
import { type Recognised, whose } from "../rules/marks";
import type { DeckOperation } from "../scope";
import { type AnsweredQuestion, calledFields, calledRow, fishWords } from "./called";
import { releaseFish } from "./release-set";
import { placeTag } from "./tag-place";

type Capture = Schemas["Capture"];

const kind: DeckOperation<Record<string, unknown>, Capture> = {
  kind: "capture.record",
  apply: (deck, { shown }) => ({ ...deck, captures: put(deck.captures, shown) }),
  describe: ({ row }) => `fish ${fishWords(row)}`,
  subject: ({ id }) => id,
};
export default kind;

/** Keeps a called fish, with every number that was read on it; tags from stock go in and it leaves, as it was called. */
export function keepFish(
  store: DeckStore,
  run: Schemas["Run"],
  call: Call,
  evidence: string,
  questions: AnsweredQuestion[],
  recognised: Recognised[] = [],
): Promise<unknown> {
  const id = uuidv7();
  const read = recognised.filter(({ meaning }) => meaning !== "stock");
  const met = whose(read, store.view.document.outing.programme, call.species ?? "");
  const shown: Capture = {
    id,
    run: run.id,
    device_time: store.now(),
    ...calledFields(call, evidence, questions),
    fish: met.fish,
    scanned: met.scanned || call.scanned,
    scans: read.map(({ kind, number, meaning }) => ({
      kind,
      number,
      result: meaning === "known" ? "known" : "foreign",
    })),
    release: "",
    strength: null,
    reason: "",
    taken_to: "",
    placed: [],
  };
  const scans = read.map(({ kind, number }) => ({ kind, number }));
  const kept = [
    store.add({
      id,
      kind: kind.kind,
      row: {
        run: run.id,
        ...calledRow(call, evidence, questions),
        ...(scans.length ? { scanned: "number", scans } : { scanned: call.scanned }),
      },
      shown,
    }),
  ];
  let now = shown;
  for (const mark of recognised) {
    if (mark.meaning !== "stock") continue;
    now = { ...now, placed: [...now.placed, { kind: mark.kind, number: mark.number, body_site: "", quality: "" }] };
    kept.push(placeTag(store, now, mark));
  }
  if (call.release) kept.push(releaseFish(store, [id], call.release));
  return Promise.all(kept);
}
