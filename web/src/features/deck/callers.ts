import { pbkdf2 } from "@noble/hashes/pbkdf2.js";
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex, hexToBytes } from "@noble/hashes/utils.js";
import type { Schemas } from "@/api/schemas";
import { recall, remember } from "@/offline/database";

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

/** Who called last on this tablet in an outing; a tablet that was closed goes on with them. */
export async function lastCaller(outing: string): Promise<Caller | null> {
  return (await recall<Caller | null>(keyOf(outing))) ?? null;
}

export function rememberCaller(outing: string, caller: Caller | null): Promise<void> {
  return remember(keyOf(outing), caller);
}
