import { ApiError } from "@/api/client";

/** Which field a refusal is about, by the last part of its path, with what was said. */
export function fieldErrors(failure: Error | null): Record<string, string | undefined> {
  const field = failure instanceof ApiError && failure.field?.split(".").at(-1);
  return field ? { [field]: failure.message } : {};
}
