import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { offline } from "./database";
import { sender } from "./sender";

const base = { person: "me", programme: "g", outing: "o", kind: "capture.record" as const, row: {} };
const queue = (...ids: string[]) =>
  offline.operations.bulkAdd(
    ids.map((id) => ({ ...base, id, device_time: "2026-10-12T22:00:00Z", state: "waiting" as const })),
  );
const left = async () => (await offline.operations.orderBy("seq").toArray()).map(({ id, state }) => `${id} ${state}`);

type Answer = (ids: string[]) => Response | Promise<Response>;
let sent: string[][];
let answers: Answer[];

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
const result = (id: string, state: string, code?: string) => ({
  id,
  state,
  error: code ? { code, message: "No.", field: null } : null,
});
const stored: Answer = (ids) => json(200, { results: ids.map((id) => result(id, "stored")) });

beforeEach(async () => {
  await offline.operations.clear();
  sent = [];
  answers = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const body = (await request.json()) as { operations: { id: string }[] };
    const ids = body.operations.map(({ id }) => id);
    sent.push(ids);
    return (answers.shift() ?? stored)(ids);
  });
});

afterEach(() => {
  sender.start(null);
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

it("sends in order and forgets only what is stored", async () => {
  await queue("a", "b", "c");
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(sent).toEqual([["a", "b", "c"]]);
  await vi.waitFor(() => expect(sender.signal).toBe("sent"));
});

it("keeps what is refused, with its reason, and holds up no other", async () => {
  await queue("a", "b", "c");
  answers = [
    (ids) =>
      json(422, {
        code: "length_unreadable",
        message: "No.",
        field: "length",
        results: ids.map((id) => result(id, id === "b" ? "refused" : "stored", id === "b" ? "length_unreadable" : "")),
      }),
  ];
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual(["b refused"]));
  expect((await offline.operations.toArray())[0]!.error?.code).toBe("length_unreadable");
});

it("keeps everything while there is no answer, and sends it when there is", async () => {
  await queue("a", "b");
  answers = [() => Promise.reject(new TypeError("Failed to fetch")), () => json(502, {})];
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("no answer"));
  expect(await left()).toEqual(["a waiting", "b waiting"]);
  sender.wake();
  await vi.waitFor(() => expect(sent).toHaveLength(2));
  expect(await left()).toEqual(["a waiting", "b waiting"]);
  sender.wake();
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(sent).toEqual([
    ["a", "b"],
    ["a", "b"],
    ["a", "b"],
  ]);
});

it("asks to sign in again and loses nothing", async () => {
  await queue("a");
  answers = [() => json(401, { code: "sign_in", message: "Sign in first.", field: null })];
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("sign in"));
  expect(await left()).toEqual(["a waiting"]);
});

it("sends only what this person recorded", async () => {
  await queue("a");
  await offline.operations.add({ ...base, id: "b", person: "other", device_time: "", state: "waiting" });
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual(["b waiting"]));
  expect(sent).toEqual([["a"]]);
});

it("sends many in parts", async () => {
  const ids = Array.from({ length: 450 }, (_, place) => String(place));
  await queue(...ids);
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]), { timeout: 5000 });
  expect(sent.flat()).toEqual(ids);
  expect(sent.length).toBeGreaterThan(1);
});

it("keeps what the server left unanswered", async () => {
  await queue("a", "b");
  answers = [(ids) => json(200, { results: [result(ids[0]!, "stored")] })];
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(sent).toEqual([["a", "b"], ["b"]]);
});
