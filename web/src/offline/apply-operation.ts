import type { Schemas } from "@/api/client";
import type { Deck, Operation } from "./database";

type Capture = Schemas["Capture"];
type Run = Schemas["Run"];

/** An operation with what it looks like on screen: the row as this tablet understands it, until the server's comes. */
export interface ShownOperation extends Operation {
  shown?: Capture | Run | Schemas["WaterReading"];
}

/** The deck after an operation. Doing it to a deck that has it already changes nothing. */
export function applyOperation(deck: Deck, operation: ShownOperation): Deck {
  const { row } = operation;
  switch (operation.kind) {
    case "run.start":
      return { ...deck, runs: put(deck.runs, operation.shown as Run) };
    case "run.edit": {
      const { run, ...values } = row as Partial<Run> & { run: string };
      return { ...deck, runs: deck.runs.map((each) => (each.id === run ? { ...each, ...values } : each)) };
    }
    case "water.record":
      return { ...deck, water_readings: put(deck.water_readings, operation.shown as Schemas["WaterReading"]) };
    case "capture.record":
    case "capture.edit":
    case "capture.restore":
    case "tag.place":
      return { ...deck, captures: put(deck.captures, operation.shown as Capture) };
    case "release.set": {
      const { captures, code } = row as { captures: string[]; code: Capture["release"] | null };
      const left = new Set(captures);
      return {
        ...deck,
        captures: deck.captures.map((each) => (left.has(each.id) ? { ...each, release: code ?? "" } : each)),
      };
    }
    case "checklist.sign": {
      const { checklist, name, note, signed } = row as {
        checklist: string;
        name: string;
        note: string;
        signed: boolean;
      };
      const signature = { signed, name, note, at: operation.device_time };
      return {
        ...deck,
        checklists: deck.checklists.map((each) =>
          each.code === checklist && !each.signature?.signed ? { ...each, signature } : each,
        ),
      };
    }
    case "capture.delete":
      return { ...deck, captures: deck.captures.filter(({ id }) => id !== row.capture) };
  }
}

function put<T extends { id: string; device_time?: string; started_at?: string }>(rows: T[], row: T): T[] {
  const place = rows.findIndex(({ id }) => id === row.id);
  if (place >= 0) return rows.with(place, row);
  const moment = (each: T) => each.device_time ?? each.started_at ?? "";
  // nearly always the newest; a restored fish goes back to its place
  let at = rows.length;
  while (at > 0 && moment(rows[at - 1]!) > moment(row)) at -= 1;
  return rows.toSpliced(at, 0, row);
}
