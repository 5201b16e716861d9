// @vitest-environment jsdom
import { afterEach, expect, it, vi } from "vitest";
import { answer, api } from "./client";
import { ours } from "./testing";

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const busy = () => ours({ code: "busy", message: "Many are asking.", field: null }, 503, { "Retry-After": "1" });
const ask = () => answer(api.GET("/api/v1/session"));

/** Answers in this order, and how often it was asked. */
function server(...answers: (() => Response)[]) {
  const asked = vi.fn(async () => (answers.length > 1 ? answers.shift()! : answers[0]!)());
  vi.stubGlobal("fetch", asked);
  vi.useFakeTimers();
  return asked;
}

it("asks again for what the server was too busy to read out, when it says so", async () => {
  const asked = server(busy, busy, () => ours({ version: "1" }));
  const told = ask();
  await vi.advanceTimersByTimeAsync(5000);
  expect(await told).toEqual({ version: "1" });
  expect(asked).toHaveBeenCalledTimes(3);
});

it("gives up after some tries, with the server's words", async () => {
  const asked = server(busy);
  const told = ask().catch((failure: Error) => failure);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(await told).toMatchObject({ code: "busy", message: "Many are asking." });
  expect(asked).toHaveBeenCalledTimes(8);
});

it("does not ask again while the database is away, nor sends anything twice by itself", async () => {
  const away = () => ours({ code: "not_now", message: "Away.", field: null }, 503, { "Retry-After": "5" });
  const asked = server(away);
  await expect(ask()).rejects.toMatchObject({ code: "not_now" });
  expect(asked).toHaveBeenCalledTimes(1);
  vi.stubGlobal(
    "fetch",
    asked.mockImplementation(async () => busy()),
  );
  await expect(answer(api.DELETE("/api/v1/session"))).rejects.toMatchObject({ code: "busy" });
  expect(asked).toHaveBeenCalledTimes(2);
});

it("takes what has not the server's mark for no signal, in whatever shape", async () => {
  server(() => Response.json({ person: null, memberships: [] }));
  await expect(ask()).rejects.toBeInstanceOf(TypeError);
  server(() => Response.json({ code: "sign_in", message: "Sign in.", field: null }, { status: 401 }));
  await expect(ask()).rejects.toBeInstanceOf(TypeError);
});

it("ends what is taken and never answered", async () => {
  vi.useFakeTimers();
  vi.stubGlobal(
    "fetch",
    (_: Request, { signal }: { signal: AbortSignal }) =>
      new Promise((_resolve, reject) => {
        signal.addEventListener("abort", () => reject(signal.reason));
      }),
  );
  const told = ask().catch((failure: Error) => failure);
  await vi.advanceTimersByTimeAsync(44_000);
  const early = await Promise.race([told, Promise.resolve("asking")]);
  expect(early).toBe("asking");
  await vi.advanceTimersByTimeAsync(2000);
  expect(await told).toBeInstanceOf(TypeError);
});

it("fetches a lost cookie anew and sends again, once", async () => {
  const seen: string[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    seen.push(`${request.method} ${request.headers.get("X-CSRFToken") ?? ""}`);
    if (request.method === "GET") {
      // biome-ignore lint/suspicious/noDocumentCookie: as the server's answer sets it
      document.cookie = "csrftoken=fresh";
      return ours({});
    }
    return request.headers.get("X-CSRFToken") === "fresh" ? ours({ version: "1" }) : ours({ code: "csrf" }, 403);
  });
  expect(await answer(api.DELETE("/api/v1/session"))).toEqual({ version: "1" });
  expect(seen).toEqual(["DELETE ", "GET ", "DELETE fresh"]);
});
