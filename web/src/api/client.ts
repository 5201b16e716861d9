import createClient from "openapi-fetch";
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
/** Every request has an end: a network that takes requests and never answers is one that is not there. */
const END_MS = 45_000;
/** A file goes over a thin line for long before the server can say a word. */
const END_OF_UPLOAD_MS = 600_000;

/**
 * Asks. What the server is too busy to read out at this moment is asked for again when it says so; where the cookie was lost
 * that says that this page is ours, it is fetched anew and what was to be sent is sent again: nothing of it was done.
 */
async function patiently(request: Request): Promise<Response> {
  for (let tries = 1; ; tries++) {
    const response = await withAnEnd(tries === MOST_TRIES ? request : request.clone());
    if (tries === MOST_TRIES || ![403, 503].includes(response.status)) return response;
    const { code } = await response
      .clone()
      .json()
      .catch(() => ({}));
    const again = Number(response.headers.get("Retry-After"));
    if (code === "busy" && request.method === "GET" && again)
      await new Promise((resolve) => setTimeout(resolve, again * 1000 * (0.5 + Math.random())));
    else if (code === "csrf" && tries === 1) {
      await withAnEnd(new Request(`${location.origin}/api/v1/session`));
      request.headers.set("X-CSRFToken", csrfToken());
    } else return response;
  }
}

async function withAnEnd(request: Request): Promise<Response> {
  const ends = new AbortController();
  const form = request.headers.get("Content-Type")?.startsWith("multipart/");
  const end = form ? END_OF_UPLOAD_MS : END_MS;
  // the body may come slowly: it has twice as long; once read, this ends nothing
  const late = () => ends.abort(new TypeError(`The server did not answer within ${end / 1000} s.`));
  let timer = setTimeout(late, end);
  try {
    // looked up at each call, so that tests can stand in for the network
    const response = await fetch(request, { signal: AbortSignal.any([request.signal, ends.signal]) });
    clearTimeout(timer);
    timer = setTimeout(late, 2 * end);
    return response;
  } catch (failure) {
    clearTimeout(timer);
    throw failure;
  }
}

api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});

/** Something else answered in the server's place, such as a network's own sign-in page: no signal, as fetch says it. */
export class NotOurs extends TypeError {
  constructor(status: number) {
    super(`Something between this device and the server answered in its place (${status}).`);
  }
}

/** Whether an answer comes from our server (`common/ours.py` marks each), whatever it holds. */
export const isOurs = (response: Response): boolean => response.headers.has("Nailwright-Version");

/**
 * The answer's data, or the server's refusal as an ApiError; a lost connection stays the TypeError of fetch, and what comes
 * from elsewhere is one too.
 */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (!isOurs(response)) throw new NotOurs(response.status);
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
