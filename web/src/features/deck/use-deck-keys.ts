import { type RefObject, useEffect, useEffectEvent } from "react";
import type { DeckStore } from "./deck-store";
import type { CallState } from "./use-call";

interface Keys {
  working: boolean;
  store: DeckStore;
  call: CallState;
  /** The call line. */
  input: RefObject<HTMLInputElement | null>;
  press: () => void;
  startOrEnd: () => void;
  releaseAll: () => void;
  undo: () => void;
}

/** Everything that is reachable by touch on the Deck has a key. */
export function useDeckKeys({ working, store, call, input, press, startOrEnd, releaseAll, undo }: Keys): void {
  // an effect event, since a key may come between a render and its effects: a stale pedal would lose seconds
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    // a sheet takes its own keys; the Escape that closes one must not clear the line as well
    if (event.defaultPrevented || document.querySelector("[role=dialog]")) return;
    const last = store.view.deck.captures.at(-1);
    const repair = event.altKey && /^[1-4]$/.test(event.key) ? call.doubts.repairs[Number(event.key) - 1] : undefined;
    if (event.key === "F2") press();
    else if (event.key === "F4") call.sayScanned();
    else if (event.key === "F8") startOrEnd();
    else if (event.key === "F9") releaseAll();
    else if (event.key === "z" && (event.ctrlKey || event.metaKey) && !call.line) undo();
    else if (event.key === "ArrowUp" && last && !call.line) call.correct(last);
    else if (event.key === "Escape") call.clear();
    else if (repair) call.repair(repair);
    else if (event.key === "Enter" && document.activeElement === document.body) call.enter();
    else {
      // whatever is typed while nothing has the focus belongs on the call line
      if (document.activeElement === document.body && event.key.length === 1 && !event.ctrlKey && !event.altKey)
        input.current?.focus();
      return;
    }
    event.preventDefault();
    input.current?.focus();
  });
  useEffect(() => {
    if (!working) return;
    const listener = (event: KeyboardEvent) => onKey(event);
    window.addEventListener("keydown", listener);
    return () => window.removeEventListener("keydown", listener);
  }, [working]);
}
