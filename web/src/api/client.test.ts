import { afterEach, expect, it, vi } from "vitest";
import { answer, api } from "./client";

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const busy = () =>
  new Response(JSON.stringify({ code: "busy", message: "Many are asking.", field: null }), {
    status: 503,
    headers: { "Retry-After": "1", "Content-Type": "application/json" },
  });
const ask = () => answer(api.GET("/api/v1/session"));

/** Answers in this order, and how often it was asked. */
function server(...answers: (() => Response)[]) {
  const asked = vi.fn(async () => (answers.length > 1 ? answers.shift()! : answers[0]!)());
  vi.stubGlobal("fetch", asked);
  vi.useFakeTimers();
  return asked;
}

it("asks again for what the server was too busy to read out, when it says so", async () => {
  const asked = server(busy, busy, () => Response.json({ version: "1" }));
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
  const away = () =>
    new Response(JSON.stringify({ code: "not_now", message: "Away.", field: null }), {
      status: 503,
      headers: { "Retry-After": "5", "Content-Type": "application/json" },
    });
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
