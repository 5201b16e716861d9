import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, api } from "@/api/client";
import type { Who } from "@/offline/document-store";
import { KitStore } from "./kit-store";

/** Opens a kit on this phone; the store is null until it is there. */
export function useKitStore(kit: string, { id, name }: Who): { store: KitStore | null; failure: Error | null } {
  const [state, setState] = useState<{ store: KitStore | null; failure: Error | null }>({ store: null, failure: null });
  useEffect(() => {
    let left = false;
    let store: KitStore | null = null;
    KitStore.open(kit, { id, name }).then(
      (opened) => {
        if (left) return opened.close();
        store = opened;
        setState({ store, failure: null });
      },
      (failure: Error) => !left && setState({ store: null, failure }),
    );
    return () => {
      left = true;
      store?.close();
    };
  }, [kit, id, name]);
  return state;
}

/** What became of one's fish; of the server alone. */
export function useKitSummary(kit_id: string) {
  return useQuery({
    queryKey: ["kit-summary", kit_id],
    queryFn: () => answer(api.GET("/api/v1/kits/{kit_id}/summary", { params: { path: { kit_id } } })),
    retry: false,
  });
}
