import { hmac } from "@noble/hashes/hmac.js";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, hexToBytes } from "@noble/hashes/utils.js";
import type { Schemas } from "@/api/schemas";
import { asText } from "./as-text";
import { intoScope, type OfOuting, recall } from "./database";
import type { Operation } from "./operation";
import { outbox } from "./outbox";

/**
 * What waits on a device as a file, to be carried by hand to one that has a signal, or kept as a copy. Whoever brings it in
 * sends it. What is signed by the sign-in under which it was made stays whose it was; all else stands under whoever brings it, in the
 * name of whoever made it. Brought in twice, or sent by their own device as well, each is once.
 */
const FORMAT = "nailwright-entries";
const VERSION = 3;
/** Files of these versions are read; those of 1 bear no signature, and in those before 3 each entry is of an outing. */
const READ = [1, 2, 3];

interface Carried {
  format: typeof FORMAT;
  version: number;
  written: string;
  operations: (Operation | OfOuting)[];
}

/** The file's text. What the server refused goes along: another version of the record may take it. */
export async function carry(operations: readonly Operation[], now = new Date()): Promise<string> {
  const session = await recall<Pick<Schemas["Session"], "person" | "carry_key">>("session");
  const whole = await Promise.all(operations.map(asText));
  const entries = whole.map(({ seq, unsaved, state, error, ...each }) => ({
    ...each,
    state: "waiting" as const,
    carried: each.carried ?? signed(each, session?.person?.id === each.person ? session.carry_key : null),
  }));
  const file: Carried = { format: FORMAT, version: VERSION, written: now.toISOString(), operations: entries };
  return JSON.stringify(file);
}

type Unsigned = Pick<Operation, "id" | "kind" | "device_time" | "row" | "person" | "programme"> & Partial<Operation>;

/** An entry as text, with its signature where this device has the key. */
function signed(
  { id, kind, device_time, clock_offset_s, reason, by, person, programme, row }: Unsigned,
  key: Schemas["CarryKey"] | null | undefined,
): Schemas["CarriedRequest"] {
  const text = JSON.stringify({ id, kind, device_time, clock_offset_s, reason, by, person, programme, row });
  if (!key) return { key: "", mac: "", text };
  const mac = bytesToHex(hmac(sha256, hexToBytes(key.secret), new TextEncoder().encode(text)));
  return { key: key.id, mac, text };
}

/**
 * Entries of a carried file as this person's to send. Throws with what was expected where it is no such file, or none of
 * `programmes` (keys).
 */
export function readCarried(
  text: string,
  person: { id: string; name: string },
  programmes: readonly string[],
): Operation[] {
  let file: Partial<Carried>;
  try {
    file = JSON.parse(text) as Partial<Carried>;
  } catch {
    throw new Error("Expected a file of waiting entries that this application wrote; this is none, or it was cut off.");
  }
  if (file?.format !== FORMAT || !Array.isArray(file.operations))
    throw new Error("Expected a file of waiting entries that this application wrote; this is another kind of file.");
  if (!READ.includes(file.version ?? 0))
    throw new Error(
      `Expected version ${READ.join(" or ")} of such a file; got ${file.version}. Bring the application up to date.`,
    );
  const entries = file.operations.map((each) => (each && "outing" in each ? intoScope(each) : each));
  const whole = entries.every(
    (each) =>
      each &&
      [each.id, each.person, each.programme, each.scope?.kind, each.scope?.id, each.kind].every(
        (part) => typeof part === "string",
      ) &&
      typeof each.row === "object",
  );
  if (!whole)
    throw new Error("An entry in this file lacks its key, its person or what it belongs to. Nothing was imported.");
  const elsewhere = entries.filter(({ programme }) => !programmes.includes(programme)).length;
  if (elsewhere)
    throw new Error(`${elsewhere} of its entries belong to a programme that you are not in. Nothing was imported.`);
  return entries.map(({ seq, error, carried, ...each }) => ({
    ...each,
    state: "waiting",
    person: person.id,
    person_name: person.name,
    // one's own are sent as from here; of another's it is the server that reads the signature
    ...(each.person === person.id ? {} : { by: each.by ?? each.person, carried: carried ?? signed(each, null) }),
  }));
}

/** Puts entries into this device's queue, those that are there already left out; how many were new. */
export async function bringIn(operations: readonly Operation[]): Promise<number> {
  const there = new Set((await outbox.queued()).map(({ id }) => id));
  const fresh = operations.filter(({ id }) => !there.has(id));
  for (const each of fresh) await outbox.add(each);
  return fresh.length;
}

/** Saves what waits as a file. */
export async function saveCarried(operations: readonly Operation[]): Promise<void> {
  const address = URL.createObjectURL(new Blob([await carry(operations)], { type: "application/json" }));
  const link = document.createElement("a");
  link.href = address;
  link.download = `nailwright-entries-${new Date().toISOString().slice(0, 16).replace(/[-:T]/g, "")}.json`;
  link.click();
  URL.revokeObjectURL(address);
}
