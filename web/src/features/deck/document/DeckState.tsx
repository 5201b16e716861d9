import { useSyncExternalStore } from "react";
import { clock, clockTrouble } from "@/offline/clock";
import type { DeckView } from "./deck-store";

/** What is not as it should be with this device: it shows what it last knew, or its clock is out. */
export function DeckState({ view }: { view: DeckView }) {
  const behind = useSyncExternalStore(clock.subscribe, () => clock.offset);
  const out = clockTrouble(behind);
  return (
    <>
      {[view.stale, out].map(
        (words) =>
          words && (
            <p key={words} role="status" className="border-b border-line bg-wash px-4 py-1.5 text-sm">
              {words}
            </p>
          ),
      )}
    </>
  );
}
