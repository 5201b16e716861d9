import { expect, it } from "vitest";
import { applyOperation, describeOperation } from "@/offline/kinds";
import type { Operation } from "@/offline/operation";
import { capture, emptyDeck, RUN, RUN_ID } from "@/testing/deck";

const operation = (kind: string, change: Partial<Operation> = {}): Operation => ({
  id: "op",
  person: "p",
  programme: "g",
  scope: { kind: "outing", id: "o" },
  kind,
  device_time: "2026-10-12T22:00:00Z",
  row: {},
  state: "waiting",
  ...change,
});

it("does every kind, and doing it again changes nothing", () => {
  const fish = capture("a");
  const steps: Operation[] = [
    operation("run.start", { shown: RUN }),
    operation("capture.record", { shown: fish }),
    operation("capture.edit", { shown: { ...fish, length_mm: 470 } }),
    operation("water.record", {
      shown: { id: "w", outing: "o", run: null, device_time: "2026-10-12T21:00:00Z", temperature_c: 9 } as never,
    }),
    operation("run.edit", { row: { run: RUN_ID, current_on_s: 96 } }),
  ];
  const once = steps.reduce(applyOperation, emptyDeck());
  expect(once.captures).toEqual([{ ...fish, length_mm: 470 }]);
  expect(once.runs[0]).toMatchObject({ current_on_s: 96, volts: 180 });
  expect(once.water_readings).toHaveLength(1);
  expect(steps.reduce(applyOperation, once)).toEqual(once);
});

it("puts a restored fish back into its place", () => {
  const [first, second, third] = ["21:00", "22:00", "23:00"].map((hour) =>
    capture(hour, { device_time: `2026-10-12T${hour}:00Z` }),
  );
  const deck = { ...emptyDeck(), captures: [first!, second!, third!] };
  const without = applyOperation(deck, operation("capture.delete", { row: { capture: second!.id } }));
  expect(without.captures.map(({ id }) => id)).toEqual(["21:00", "23:00"]);
  const again = applyOperation(without, operation("capture.restore", { shown: second }));
  expect(again.captures).toEqual(deck.captures);
});

it("signs a list that was passed over, and leaves one that is signed", () => {
  const list = { code: "boat", version: 1, title: "Boat", lines: [], note: "", signature: null };
  const sign = (name: string, signed: boolean) =>
    operation("checklist.sign", { row: { checklist: "boat", name, note: "", signed } });
  const passed = applyOperation({ ...emptyDeck(), checklists: [list] }, sign("Ada", false));
  expect(passed.checklists[0]!.signature).toMatchObject({ name: "Ada", signed: false, at: "2026-10-12T22:00:00Z" });
  const signed = applyOperation(passed, sign("Bo", true));
  expect(signed.checklists[0]!.signature).toMatchObject({ name: "Bo", signed: true });
  expect(applyOperation(signed, sign("Cy", true))).toEqual(signed);
});

it("is known for every kind by a name for people, and one that is not known any more shows nothing", () => {
  const fish = operation("capture.record", { row: { species: "wal", length: "437" }, shown: capture("a") });
  expect(describeOperation(fish)).toBe("fish wal 437");
  expect(describeOperation(operation("release.set", { row: { captures: ["a", "b"], code: "alive" } }))).toBe(
    "2 entries released",
  );
  const unknown = operation("fish.hum", { row: {} });
  expect(describeOperation(unknown)).toBe("fish.hum");
  expect(applyOperation(emptyDeck(), unknown)).toEqual(emptyDeck());
});
