import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useReader } from "./use-reader";

(globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;

const PIT = "999000000012345";
let root: Root;
let scans: string[];
let entered: number;
let clock: number;

function Deck({ working }: { working: boolean }) {
  useReader(working, (number) => scans.push(number));
  const count = (key: string) => {
    if (key === "Enter") entered += 1;
  };
  return <input aria-label="Volts" onKeyDown={({ key }) => count(key)} />;
}

const show = (working = true) => act(() => root.render(<Deck working={working} />));

beforeEach(() => {
  scans = [];
  entered = 0;
  clock = 1000;
  const frame = document.createElement("div");
  document.body.replaceChildren(frame);
  root = createRoot(frame);
  vi.spyOn(Event.prototype, "timeStamp", "get").mockImplementation(() => clock);
});

afterEach(() => {
  act(() => root.unmount());
  vi.restoreAllMocks();
});

/** Keys as a hand or a reader sends them, into whatever has the cursor. */
function type(text: string, msBetween: number) {
  const field = document.querySelector("input")!;
  field.focus();
  for (const key of [...text, "Enter"]) {
    clock += msBetween;
    act(() => {
      if (
        field.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true })) &&
        key !== "Enter"
      )
        field.value += key;
    });
  }
  return field;
}

it("hears fifteen digits in one burst, and takes them out of the field again", () => {
  show();
  const field = type("210", 120);
  expect(entered).toBe(1);
  expect(type(PIT, 4).value).toBe("210");
  expect(scans).toEqual([PIT]);
  expect(entered).toBe(1); // the reader's Enter went no further
  expect(field).toBe(document.activeElement);
});

it("leaves what a hand types alone, however long", () => {
  show();
  expect(type(PIT, 130).value).toBe(PIT);
  expect(scans).toEqual([]);
  expect(entered).toBe(1);
});

it.each(["99900000001234", `${PIT}6`])("takes no burst of another length for a number: %s", (digits) => {
  show();
  expect(type(digits, 4).value).toBe(digits);
  expect(scans).toEqual([]);
});

it("does not join a hand's digits to a reader's", () => {
  show();
  type("46", 120);
  const field = document.querySelector("input")!;
  field.value = "46";
  clock += 400;
  expect(type(PIT, 4).value).toBe("46");
  expect(scans).toEqual([PIT]);
});

it("listens only while the deck is worked", () => {
  show(false);
  type(PIT, 4);
  expect(scans).toEqual([]);
  show(true);
  type(PIT, 4);
  expect(scans).toEqual([PIT]);
});
