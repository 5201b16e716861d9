import { ApiError } from "@/api/client";

/** The server's refusal where it names a field: what stands under that field of a form. */
export function refusedAt(failure: Error | null): (field: string) => string | undefined {
  return (field) => (failure instanceof ApiError && failure.field === field ? failure.message : undefined);
}
