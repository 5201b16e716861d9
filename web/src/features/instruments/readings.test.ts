import { expect, it } from "vitest";
import { asCalled, type InstrumentReading, waitingAfter, waitingBeside } from "./readings";

let n = 0;
const reading = (kind: InstrumentReading["kind"], value: number | string, stable = true): InstrumentReading => ({
  n: ++n,
  instrument: kind,
  kind,
  text: typeof value === "string" ? value : "",
  values: typeof value === "number" ? { [kind]: value } : {},
  stable,
});
const after = (...readings: InstrumentReading[]) => readings.reduce<readonly InstrumentReading[]>(waitingAfter, []);
const words = (waiting: readonly InstrumentReading[]) => waiting.map((each) => asCalled(each));

it("keeps the newest figure of each kind and each of the last three numbers", () => {
  const waiting = after(
    reading("length", 437),
    reading("mass", 874.2, false),
    reading("length", 441),
    reading("mass", 890),
  );
  expect(words(waiting)).toEqual(["441mm", "890g"]);
  const twice = after(reading("pit", "a"), { ...reading("pit", "a"), instrument: "pit-2" }); // two readers, one fish
  expect(words(twice)).toEqual(["a"]);
  expect(words(after(...["a", "b", "c", "b", "d"].map((number) => reading("pit", number))))).toEqual(["c", "b", "d"]);
});

it("offers nothing that still moves, and nothing that is no part of a call", () => {
  expect(words([reading("mass", 874.2, false), reading("water", 9), reading("position", 1)])).toEqual([
    null,
    null,
    null,
  ]);
});

it("lets go of what the fish that was kept has taken, and of nothing else", () => {
  const waiting = after(reading("length", 437), reading("mass", 890), reading("pit", "a"), reading("pit", "b"));
  expect(words(waitingBeside(waiting, { length_mm: 437, mass_g: 700, numbers: ["a"] }))).toEqual(["890g", "b"]);
  expect(words(waitingBeside(waiting, { length_mm: null, mass_g: null, numbers: [] }))).toHaveLength(4);
});
