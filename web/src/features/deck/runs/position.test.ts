import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { hearPosition, whereNow } from "./position";

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["performance"] });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const tablet = (latitude: number) => ({
  geolocation: {
    getCurrentPosition: (told: (where: unknown) => void) =>
      told({ coords: { latitude, longitude: 5.12345678, accuracy: 7.2 } }),
  },
});

it("goes by a GPS on a cable while that speaks, and by the tablet after", async () => {
  vi.stubGlobal("navigator", tablet(10));
  hearPosition({ lat: 44.90123456, lon: -31.5, hdop: 0.9 });
  expect(await whereNow()).toEqual({ lat: 44.901235, lon: -31.5, within_m: 5 });
  vi.advanceTimersByTime(11_000);
  expect(await whereNow()).toEqual({ lat: 10, lon: 5.123457, within_m: 8 });
});

it("says why where neither tells", async () => {
  vi.advanceTimersByTime(60_000);
  vi.stubGlobal("navigator", {});
  await expect(whereNow()).rejects.toThrow("does not tell its position");
});
