// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from "vitest";
import { type clock as Clock, clockTrouble } from "./clock";

let clock: typeof Clock;
const NOW = Date.parse("2026-10-12T22:00:00Z");
/** The server is so many seconds ahead, and its answer came after so long. */
const told = (s: number, roundTripS = 0.2) =>
  clock.compare(new Date(NOW + s * 1000).toISOString(), NOW - (roundTripS * 1000) / 2, NOW + (roundTripS * 1000) / 2);

beforeEach(async () => {
  vi.resetModules();
  const { forgetAll } = await import("./testing");
  await forgetAll();
  await (await import("./database")).remember("clock-behind-s", undefined);
  ({ clock } = await import("./clock"));
});

it("takes small differences by itself and leaves alone what is the way through the air", () => {
  told(0.8);
  expect(clock.offset).toBe(0);
  told(20);
  told(20);
  expect(clock.offset).toBe(20);
  told(21);
  expect(clock.offset).toBe(20);
});

it("goes by the comparison with the shortest way", () => {
  told(10, 0.1);
  told(14, 8);
  expect(clock.offset).toBe(10);
});

it("asks of a jump, and changes nothing before the answer", () => {
  told(5);
  told(7200);
  expect(clock.now).toEqual({ behindS: 5, asked: 7200 });
  clock.decide(false);
  expect(clock.now).toEqual({ behindS: 5, asked: null });
  told(7201); // the same again is not asked again
  expect(clock.now.asked).toBe(null);
  told(-86_400 * 4000);
  clock.decide(true);
  expect(clock.offset).toBe(-86_400 * 4000);
});

it("withdraws the question where the clock was set meanwhile", () => {
  told(7200);
  told(1);
  expect(clock.now).toEqual({ behindS: 0, asked: null });
});

it.each([
  ["nothing", undefined, 0.1],
  ["no time", "soon", 0.1],
  ["an answer after a minute", "2026-10-12T22:01:00Z", 60],
  ["the age of steam", "1801-01-01T00:00:00Z", 0.1],
  ["a clock that was set back while it was asked", "2026-10-12T22:00:20Z", -5],
])("learns nothing from %s", (_, text, roundTripS) => {
  clock.compare(text, NOW, NOW + roundTripS * 1000);
  expect(clock.now).toEqual({ behindS: undefined, asked: null });
});

it("says a far error in words", () => {
  expect(clockTrouble(59)).toBe(null);
  expect(clockTrouble(-7200)).toContain("2 hours ahead");
  expect(clockTrouble(86_400 * 365.25 * 11)).toContain("11 years behind");
});
