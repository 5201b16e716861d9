import { act, type ReactNode } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach } from "vitest";

(globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;

let root: Root | null = null;

afterEach(() => {
  act(() => root?.unmount());
  root = null;
});

/** Shows something in a page of its own. */
export function show(node: ReactNode): HTMLElement {
  const frame = document.createElement("div");
  document.body.replaceChildren(frame);
  root = createRoot(frame);
  act(() => root!.render(node));
  return frame;
}

/** The field with this label. */
export function field(label: string): HTMLInputElement | HTMLSelectElement {
  const found = [...document.querySelectorAll("label")].find((each) => each.textContent === label);
  const input = found && (document.getElementById(found.htmlFor) ?? found.querySelector("input, select"));
  if (!input) throw new Error(`No field is called ${label}`);
  return input as HTMLInputElement;
}

/** Types or chooses a value as a person does, so that React hears of it. */
export function change(input: HTMLInputElement | HTMLSelectElement, value: string) {
  const kind = input instanceof HTMLSelectElement ? HTMLSelectElement : HTMLInputElement;
  act(() => {
    Object.getOwnPropertyDescriptor(kind.prototype, "value")!.set!.call(input, value);
    input.dispatchEvent(new Event(kind === HTMLSelectElement ? "change" : "input", { bubbles: true }));
  });
}

export function leave(input: HTMLElement) {
  act(() => {
    input.dispatchEvent(new FocusEvent("focusout", { bubbles: true }));
  });
}

/** Presses the button with these words. */
export function press(words: string) {
  const button = [...document.querySelectorAll("button")].find((each) => each.textContent?.trim() === words);
  if (!button) throw new Error(`No button says ${words}`);
  act(() => button.click());
}
