import { useSyncExternalStore } from "react";
import type { Operation } from "./operation";
import { outbox } from "./outbox";

/** What was told last; read once for all who show it, since the queue changes at every call. */
let queued: Operation[] = [];
const listeners = new Set<() => void>();
let stop: (() => void) | undefined;

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  stop ??= outbox.watch(undefined, (now) => {
    queued = now;
    for (const each of listeners) each();
  });
  return () => {
    listeners.delete(listener);
    if (listeners.size) return;
    stop?.();
    stop = undefined;
    queued = [];
  };
}

/** All that waits on this device, whoever made it; anew whenever it changes, in any tab. */
export const useQueued = (): Operation[] => useSyncExternalStore(subscribe, () => queued);
