import { useEffect, useEffectEvent } from "react";
import { readPit } from "../rules/marks";

/** No hand types digits faster than this; a reader sends them within a few milliseconds of each other. */
const FASTEST_HAND_MS = 60;

/**
 * Listens for a PIT reader that acts as a keyboard: fifteen digits in one burst and Enter, wherever the cursor is.
 *
 * The digits have by then gone into whatever field had the cursor; they are taken out of it again.
 */
export function useReader(working: boolean, onScan: (number: string) => void): void {
  const scanned = useEffectEvent(onScan);
  useEffect(() => {
    if (!working) return;
    let burst = "";
    let last = 0;
    const listener = (event: KeyboardEvent) => {
      const fast = event.timeStamp - last < FASTEST_HAND_MS;
      last = event.timeStamp;
      if (/^[0-9]$/.test(event.key)) {
        burst = fast ? burst + event.key : event.key;
        return;
      }
      const number = event.key === "Enter" && fast ? readPit(burst) : null;
      burst = "";
      if (!number) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      takeBack(document.activeElement, number);
      scanned(number);
    };
    window.addEventListener("keydown", listener, true);
    return () => window.removeEventListener("keydown", listener, true);
  }, [working]);
}

/** Takes the digits out of the field they were typed into, as if a person had erased them. */
function takeBack(field: Element | null, number: string): void {
  if (!(field instanceof HTMLInputElement) || !field.value.endsWith(number)) return;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!;
  set.call(field, field.value.slice(0, -number.length));
  field.dispatchEvent(new Event("input", { bubbles: true }));
}
