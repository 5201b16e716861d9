import { pbkdf2 } from "@noble/hashes/pbkdf2.js";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, hexToBytes } from "@noble/hashes/utils.js";
import type { Schemas } from "@/api/schemas";
import { recall, recallOfSignIn, remember, rememberForSignIn } from "@/offline/database";

export type CrewCode = Schemas["CrewCode"];

/** Who has taken over a tablet. */
export interface Caller {
  id: string;
  name: string;
}

/** Whether a code is somebody's, with no signal: the server sent the digest with the deck (tests/shared/short-code.json). */
export function isCodeOf(
  { salt, digest, rounds }: Pick<CrewCode, "salt" | "digest" | "rounds">,
  code: string,
): boolean {
  const made = pbkdf2(sha256, new TextEncoder().encode(code), hexToBytes(salt), { c: rounds, dkLen: 32 });
  return bytesToHex(made) === digest;
}

const keyOf = (outing: string) => `caller ${outing}`;

/** Who has taken over under this person's sign-in. */
interface TakenOver {
  from: string;
  caller: Caller | null;
}

/** Who took over from this person in an outing; a tablet that was closed goes on with them, until somebody signs in or out. */
export async function lastCaller(outing: string, own: Caller): Promise<Caller | null> {
  const kept = await recallOfSignIn<TakenOver>(keyOf(outing));
  return kept?.from === own.id ? kept.caller : null;
}

export function rememberCaller(outing: string, own: Caller, caller: Caller | null): Promise<void> {
  return rememberForSignIn(keyOf(outing), { from: own.id, caller } satisfies TakenOver);
}

/** Notes who records on this tablet from now on; says it where that was somebody else before. */
export async function changeOfRecorder(now: Caller): Promise<string | null> {
  const before = await recall<Caller>("recorder");
  if (before?.id === now.id) return null;
  await remember("recorder", { id: now.id, name: now.name });
  return before ? `${now.name} records on this tablet from now on; before, it was ${before.name}.` : null;
}
