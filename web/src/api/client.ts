import createClient from "openapi-fetch";
import { clock } from "@/offline/clock";
import type { paths } from "./schema.gen";
import type { Schemas } from "./schemas";

export type { Schemas };

/** A refusal by the server: what was expected, what was got, at which field. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field: string | null = null,
  ) {
    super(message);
  }
}

export const api = createClient<paths>({
  baseUrl: location.origin,
  credentials: "same-origin",
  fetch: patiently,
});

const MOST_TRIES = 8;

/** Asks; what the server is too busy to read out at this moment is asked for again when it says so. */
async function patiently(request: Request): Promise<Response> {
  for (let tries = 1; ; tries++) {
    // looked up at each call, so that tests can stand in for the network
    const response = await fetch(request.method === "GET" ? request.clone() : request);
    const again = Number(response.headers.get("Retry-After"));
    if (response.status !== 503 || request.method !== "GET" || !again || tries === MOST_TRIES) return response;
    const { code } = await response
      .clone()
      .json()
      .catch(() => ({}));
    if (code !== "busy") return response;
    await new Promise((resolve) => setTimeout(resolve, again * 1000 * (0.5 + Math.random())));
  }
}

api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
  onResponse({ response }) {
    clock.compare(Date.parse(response.headers.get("Date") ?? ""));
  },
});

/** The answer's data, or the server's refusal as an ApiError; a lost connection stays the TypeError of fetch. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (response.ok) return data as T;
  throw toApiError(response.status, error);
}

/** A form for an upload: what openapi-fetch sends as the body of a multipart request. */
export function asForm(fields: Record<string, File | string>) {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  return { body: fields as never, bodySerializer: () => form };
}

export function toApiError(status: number, body: unknown): ApiError {
  const { code, message, field } = (body ?? {}) as Partial<Schemas["Error"]>;
  return new ApiError(
    status,
    code ?? "server_failed",
    message ?? `The server answered ${status}. Nothing unsent is lost; try again in a moment.`,
    field ?? null,
  );
}

function csrfToken(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]*)/)?.[1] ?? "";
}
