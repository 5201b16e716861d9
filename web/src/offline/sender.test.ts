// @vitest-environment jsdom
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ours } from "@/api/testing";
import { clock } from "./clock";
import { outbox } from "./outbox";
import { sender } from "./sender";
import { enqueue, forgetAll } from "./testing";

const base = { person: "me", programme: "g", scope: { kind: "outing", id: "o" }, kind: "capture.record", row: {} };
const queue = (...ids: string[]) =>
  enqueue(...ids.map((id) => ({ ...base, id, device_time: "2026-10-12T22:00:00Z", state: "waiting" as const })));
const left = async () => (await outbox.queued()).map(({ id, state }) => `${id} ${state}`);

interface Sent {
  ids: string[];
  person: string;
}
type Answer = (ids: string[]) => Response | Promise<Response>;
let sent: Sent[];
let answers: Answer[];
/** Answers every request by the ids it holds, where nothing is queued in `answers`. */
let always: Answer;

const json = (status: number, body: unknown) => ours(body, status);
const html = (status: number) => new Response("<html>Blocked</html>", { status });
const result = (id: string, state: string, code?: string) => ({
  id,
  state,
  error: code ? { code, message: "No.", field: null } : null,
});
const stored: Answer = (ids) => json(200, { results: ids.map((id) => result(id, "stored")) });
const batches = () => sent.map(({ ids }) => ids);

beforeEach(async () => {
  await forgetAll();
  sent = [];
  answers = [];
  always = stored;
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "GET") return json(200, { person: null, memberships: [], demo_people: [] });
    const body = (await request.json()) as { person: string; operations: { id: string }[] };
    const ids = body.operations.map(({ id }) => id);
    sent.push({ ids, person: body.person });
    return (answers.shift() ?? always)(ids);
  });
});

afterEach(() => {
  sender.start(null);
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

it("sends in order, says whose they are, and forgets only what is stored", async () => {
  await queue("a", "b", "c");
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(sent).toEqual([{ ids: ["a", "b", "c"], person: "me" }]);
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
  expect((await outbox.queued())[0]!.error?.code).toBe("length_unreadable");
});

it("holds back what belongs to a refused entry, and sends it after that is mended", async () => {
  await queue("a", "b");
  const own = { ...base, device_time: "", state: "waiting" as const };
  await enqueue({ ...own, id: "tag", kind: "tag.place", row: { capture: "b" } });
  await enqueue({
    ...own,
    id: "left",
    kind: "release.set",
    row: { captures: ["a", "b"], code: "alive" },
  });
  answers = [
    (ids) => json(422, { results: ids.map((id) => result(id, { b: "refused", tag: "failed" }[id] ?? "stored")) }),
  ];
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual(["b refused", "tag waiting"]));
  await vi.waitFor(() => expect(sender.signal).toBe("held"));
  await outbox.change((await outbox.queued())[0]!, { state: "waiting" });
  sender.wake();
  await vi.waitFor(async () => expect(await left()).toEqual([]), { timeout: 3000 });
  expect(batches()).toEqual([["a", "b", "tag", "left"], ["b"], ["tag"]]);
});

it.each([
  ["nobody answers", () => Promise.reject(new TypeError("Failed to fetch"))],
  ["a gateway answers", () => json(502, {})],
  ["the server is stopped", () => json(503, { code: "stopped", message: "", field: null })],
  ["a captive portal answers with its own page", () => html(200)],
  ["one is in the programme no more", () => json(403, { code: "not_a_member", message: "", field: null })],
] satisfies [string, Answer][])("keeps everything where %s, and sends it when it can", async (_, answer) => {
  await queue("a", "b");
  answers = [answer];
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("no answer"));
  expect(await left()).toEqual(["a waiting", "b waiting"]);
  sender.wake();
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(batches()).toEqual([
    ["a", "b"],
    ["a", "b"],
  ]);
});

it.each([413, 414, 403, 500, 400])("finds by halves the entry that a status %i on the way stops", async (status) => {
  const ids = ["a", "b", "c", "d", "e"];
  await queue(...ids);
  always = (some) => (some.includes("d") ? html(status) : stored(some));
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual(["d waiting"]), { timeout: 3000 });
  expect(batches().filter((each) => each.length === 1 && each[0] === "d")).not.toHaveLength(0);
  always = stored;
  await vi.waitFor(async () => expect(await left()).toEqual([]), { timeout: 4000 });
});

it("blames no entry where everything is stopped on the way", async () => {
  await queue(...Array.from({ length: 40 }, (_, place) => String(place)));
  always = () => html(403);
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("no answer"));
  expect(sent.length).toBeLessThan(15);
  expect((await left()).every((each) => each.endsWith("waiting"))).toBe(true);
});

it("gets a lost cookie anew and sends again", async () => {
  await queue("a");
  answers = [() => json(403, { code: "csrf", message: "Too old.", field: null })];
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(batches()).toEqual([["a"], ["a"]]);
});

it("asks to sign in again and loses nothing", async () => {
  await queue("a");
  answers = [() => json(401, { code: "sign_in", message: "Sign in first.", field: null })];
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("sign in"));
  expect(await left()).toEqual(["a waiting"]);
});

it("refuses nothing where somebody else is signed in on the server", async () => {
  await queue("a");
  answers = [() => json(409, { code: "other_person", message: "These are another's.", field: null })];
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("other person"));
  expect(await left()).toEqual(["a waiting"]);
});

it("sends only what this person recorded", async () => {
  await queue("a");
  await enqueue({ ...base, id: "b", person: "other", device_time: "", state: "waiting" });
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual(["b waiting"]));
  expect(batches()).toEqual([["a"]]);
});

it("sends many in parts", async () => {
  const ids = Array.from({ length: 450 }, (_, place) => String(place));
  await queue(...ids);
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]), { timeout: 5000 });
  expect(batches().flat()).toEqual(ids);
  expect(sent.length).toBeGreaterThan(1);
});

it("keeps what the server left unanswered or could not keep, and sends it again after a while", async () => {
  await queue("a", "b", "c");
  answers = [(ids) => json(200, { results: [result(ids[0]!, "stored"), result(ids[1]!, "failed")] })];
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual(["b waiting", "c waiting"]));
  await vi.waitFor(async () => expect(await left()).toEqual([]), { timeout: 3000 });
  expect(batches()).toEqual([
    ["a", "b", "c"],
    ["b", "c"],
  ]);
});

it.each([200, 401, 403, 409, 422])("takes JSON of a captive portal with status %d for no signal", async (status) => {
  await queue("a");
  const told = { code: "sign_in", results: [result("a", "stored")], server_time: "2015-01-01T00:00:00Z", person: null };
  always = () => new Response(JSON.stringify(told), { status, headers: { "Content-Type": "application/json" } });
  sender.start("me");
  await vi.waitFor(() => expect(sender.signal).toBe("no answer"));
  expect(await left()).toEqual(["a waiting"]);
  expect(clock.now.asked).toBe(null);
});

it("compares its clock with the server's where it takes entries", async () => {
  await queue("a");
  const ahead = new Date(Date.now() + 20_000).toISOString();
  answers = [(ids) => json(200, { server_time: ahead, results: ids.map((id) => result(id, "stored")) })];
  sender.start("me");
  await vi.waitFor(async () => expect(await left()).toEqual([]));
  expect(clock.offset).toBeGreaterThan(18);
});
