import { ApiError } from "@/api/client";
import type { Words } from "./words";

/** A refusal in the finder's language, and the part of the form where it stands; null for what belongs to none. */
export function refusalOf(failure: Error, words: Words): { part: string | null; text: string } {
  if (!(failure instanceof ApiError)) return { part: null, text: words.say("send-failed") };
  const { code, field, message } = failure;
  const part = field ? (field.split(".")[0] ?? null) : null;
  const keys = [`error-${code}`, ...(part === "length" || part === "mass" ? [`error-${part}`] : [])];
  const known = keys.find((key) => words.has(key));
  return { part, text: known ? words.say(known) : words.say("error-other", { message }) };
}
