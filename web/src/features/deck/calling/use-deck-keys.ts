import { type RefObject, useEffectEvent, useLayoutEffect } from "react";
import type { DeckStore } from "../document/deck-store";
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
  /** The fish that presses most goes on to its next lane; all that is said of it is opened. */
  firstOn: () => void;
  openFirst: () => void;
  /** A fish took the hook; nothing where the run that goes has no rods. */
  fishOn: () => void;
}

/** Everything that is reachable by touch on the Deck has a key. */
export function useDeckKeys({
  working,
  store,
  call,
  input,
  press,
  startOrEnd,
  releaseAll,
  undo,
  firstOn,
  openFirst,
  fishOn,
}: Keys): void {
  // an effect event, since a key may come between a render and its effects: a stale pedal would lose seconds
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    // a sheet takes its own keys; the Escape that closes one must not clear the line as well
    if (event.defaultPrevented || document.querySelector("[role=dialog]")) return;
    const { captures, species } = store.view.document;
    const last = captures.at(-1);
    const jump = (by: number) => {
      const at = species.findIndex(({ code }) => code === call.standing);
      call.setStanding(species[(at + by + species.length) % species.length]!.code);
    };
    const repair = event.altKey && /^[1-4]$/.test(event.key) ? call.doubts.repairs[Number(event.key) - 1] : undefined;
    if (event.key === "F2") press();
    else if (event.key === "F3") fishOn();
    else if (event.key === "F4") call.sayScanned();
    else if (event.key === "F6") firstOn();
    else if (event.key === "F7") openFirst();
    else if (event.key === "F8") startOrEnd();
    else if (event.key === "F9") releaseAll();
    else if (event.key === "F10") jump(event.shiftKey ? -1 : 1);
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
  // in place before the line is painted: a key pressed the moment it shows is not lost
  useLayoutEffect(() => {
    if (!working) return;
    const listener = (event: KeyboardEvent) => onKey(event);
    window.addEventListener("keydown", listener);
    return () => window.removeEventListener("keydown", listener);
  }, [working]);
}
