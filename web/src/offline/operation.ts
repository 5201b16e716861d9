import type { Schemas } from "@/api/schemas";

/** What an entry belongs to, such as an outing. Its document is what this device holds of it; entries change that. */
export interface Scope {
  kind: string;
  id: string;
}

/** Something done on this device that the server has not confirmed yet. */
export interface Operation {
  /** Order in which it was made; given by the browser's database. */
  seq?: number;
  /** UUIDv7: the key of the row it makes, or of the change. */
  id: string;
  /** Who did it: only as this person is it sent. */
  person: string;
  person_name?: string;
  /** Who had taken over the tablet, where that is somebody else: the entry is theirs. */
  by?: string;
  programme: string;
  scope: Scope;
  kind: string;
  /** By the device's own clock, as it stands. */
  device_time: string;
  /** How far that clock was known to be behind when it was made, s. */
  clock_offset_s?: number;
  reason?: string;
  /** A correction of the record: also of an outing that is closed. */
  desk?: true;
  /** As it stands in the file by which somebody brought it here; sent in its place. */
  carried?: Schemas["CarriedRequest"];
  row: Record<string, unknown>;
  /** It is large, such as a photo: sent by itself, after everything else. */
  heavy?: true;
  /** What it looks like on screen: the row as this device understands it, until the server's comes. */
  shown?: unknown;
  state: "waiting" | "refused";
  /** The disk had no room for it: it is in this page's memory alone. */
  unsaved?: true;
  error?: Schemas["Error"];
}

/** One kind of entry: how a device applies it with no signal, and how it is named to a person. */
export interface OperationKind<Document, Row = Record<string, unknown>, Shown = unknown> {
  kind: string;
  /** The document of its scope after it. Doing it to one that has it already changes nothing. */
  apply: (document: Document, operation: Operation & { row: Row; shown: Shown }) => Document;
  /** In a few words, for a list of entries. */
  describe: (operation: Operation & { row: Row; shown: Shown }) => string;
  /** Key of the row it is about; its own where it makes one. */
  subject: (operation: Operation & { row: Row }) => string;
}

/** Ids of the entries that this one names alone: it waits for them. One that names many does what it can. */
export function needs({ row }: Operation): string[] {
  return Object.values(row).filter((value): value is string => typeof value === "string");
}

/** What must be held back because an entry it belongs to is not in: the ids given, and all that name one of them. */
export function heldBack(queue: Operation[], missing: Iterable<string>): Set<string> {
  const held = new Set(missing);
  for (const each of queue) if (needs(each).some((id) => held.has(id))) held.add(each.id);
  return held;
}
