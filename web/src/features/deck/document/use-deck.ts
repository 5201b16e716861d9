import { useEffect, useState, useSyncExternalStore } from "react";
import type { Who } from "@/offline/document-store";
import { notify } from "@/ui/Notice";
import { changeOfRecorder } from "../calling/callers";
import { realPorts } from "./deck-ports";
import { DeckStore, type DeckView } from "./deck-store";

/** Opens an outing on this tablet; the store is null until it is there. */
export function useDeckStore(outing: string, { id, name }: Who): { store: DeckStore | null; failure: Error | null } {
  const [state, setState] = useState<{ store: DeckStore | null; failure: Error | null }>({
    store: null,
    failure: null,
  });
  useEffect(() => {
    let store: DeckStore | null = null;
    let left = false;
    let stopFollowing: (() => void) | undefined;
    DeckStore.open(outing, { id, name }, realPorts).then(
      (opened) => {
        if (left) return opened.close();
        store = opened;
        stopFollowing = opened.follow();
        setState({ store, failure: null });
        void changeOfRecorder(opened.view.caller ?? { id, name }).then((words) => words && notify(words));
      },
      (failure: Error) => !left && setState({ store: null, failure }),
    );
    return () => {
      left = true;
      stopFollowing?.();
      store?.close();
    };
  }, [outing, id, name]);
  return state;
}

export function useDeckView(store: DeckStore): DeckView {
  return useSyncExternalStore(store.subscribe, () => store.view);
}
