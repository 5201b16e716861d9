// @vitest-environment jsdom
import { createHmac } from "node:crypto";
import { beforeEach, describe, expect, it } from "vitest";
import { bringIn, carry, readCarried } from "./carried";
import { remember } from "./database";
import type { Operation } from "./operation";
import { outbox } from "./outbox";
import { enqueue, forgetAll } from "./testing";

const entry = (id: string, change: Partial<Operation> = {}): Operation => ({
  id,
  person: "ada",
  person_name: "Ada",
  programme: "g",
  scope: { kind: "outing", id: "o" },
  kind: "capture.record",
  device_time: "2026-10-12T22:00:00Z",
  clock_offset_s: 3,
  row: { species: "wal" },
  state: "waiting",
  ...change,
});
const ben = { id: "ben", name: "Ben" };

beforeEach(forgetAll);

it("is carried by somebody else and stays whose it was, once, however often it is imported", async () => {
  await enqueue(entry("a"), entry("b", { state: "refused", error: { code: "c", message: "No.", field: null } }));
  const text = await carry(await outbox.queued());
  await forgetAll(); // another device
  const read = readCarried(text, ben, ["g"]);
  expect(await bringIn(read)).toBe(2);
  expect(await bringIn(read)).toBe(0);
  const queued = await outbox.queued();
  expect(queued.map(({ id, person, by, state, error }) => [id, person, by, state, error])).toEqual([
    ["a", "ben", "ada", "waiting", undefined],
    ["b", "ben", "ada", "waiting", undefined],
  ]);
  expect(queued[0]!.clock_offset_s).toBe(3);
});

it("is signed by the sign-in under which it was made, and by no other", async () => {
  const secret = "0f".repeat(32);
  await remember("session", { person: { id: "ada" }, carry_key: { id: "k", secret } });
  const [own, others] = readCarried(await carry([entry("a"), entry("b", { person: "cy" })]), ben, ["g"]);
  const { key, mac, text } = own!.carried!;
  expect(key).toBe("k");
  expect(createHmac("sha256", Buffer.from(secret, "hex")).update(text).digest("hex")).toBe(mac);
  expect(JSON.parse(text)).toMatchObject({ id: "a", person: "ada", programme: "g", row: { species: "wal" } });
  expect(others!.carried).toMatchObject({ key: "", mac: "" });
  // carried on by a third, it keeps its signature
  const [again] = readCarried(await carry([own!]), { id: "dag", name: "Dag" }, ["g"]);
  expect(again!.carried).toEqual(own!.carried);
});

it("of before there were signatures is read, and has none", async () => {
  const { scope, ...rest } = entry("a");
  const operations = [{ ...rest, outing: scope.id }]; // as an outing's were written until version 2
  const old = JSON.stringify({ format: "nailwright-entries", version: 1, written: "", operations });
  const [read] = readCarried(old, ben, ["g"]);
  expect(read).toMatchObject({ carried: { key: "", mac: "" }, scope: { kind: "outing", id: "o" } });
  expect(read).not.toHaveProperty("outing");
});

it("is one's own where one brings it in oneself, also where somebody had taken over the tablet", async () => {
  const read = readCarried(await carry([entry("a"), entry("b", { by: "cy" })]), { id: "ada", name: "Ada" }, ["g"]);
  expect(read.map(({ person, by }) => [person, by])).toEqual([
    ["ada", undefined],
    ["ada", "cy"],
  ]);
});

describe("what is no such file", async () => {
  const whole = JSON.parse(await carry([entry("a")])) as { operations: Operation[] };
  it.each([
    ["cut off", (await carry([entry("a")])).slice(0, -5), /cut off/],
    ["another file", "{}", /another kind/],
    ["a list", "[1]", /another kind/],
    ["nothing", "null", /another kind/],
    ["newer", JSON.stringify({ ...whole, version: 4 }), /up to date/],
    ["of an odd kind", JSON.stringify({ ...whole, version: "2" }), /up to date/],
    ["without a key", JSON.stringify({ ...whole, operations: [{ ...whole.operations[0], id: 5 }] }), /lacks its key/],
    ["with a hole", JSON.stringify({ ...whole, operations: [null] }), /lacks its key/],
    ["of another programme", await carry([entry("a", { programme: "h" })]), /not in/],
  ])("%s", (_, text, words) => {
    expect(() => readCarried(text, ben, ["g"])).toThrow(words);
  });
});
