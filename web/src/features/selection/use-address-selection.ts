import { useQuery } from "@tanstack/react-query";
import { answer, api } from "@/api/client";
import { notify } from "@/ui/Notice";
import { changed, fishOf, LONGEST_IN_ADDRESS, questionOf, readSelection, type Selection } from "./selection";

/**
 * The selection that an address holds, spelt out, and a way to change it.
 *
 * One too long for an address is kept by the server under a short key, and the address holds the key.
 */
export function useAddressSelection(programme: string, search: Selection, go: (next: Selection) => void) {
  const { chosen } = search;
  const { data, error } = useQuery({
    queryKey: ["selection", programme, chosen],
    enabled: chosen !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/selections/{key}", {
          params: { path: { programme_id: programme, key: chosen! } },
        }),
      ),
  });
  const selection: Selection = chosen && data ? { ...readSelection(data.query), ...search } : search;
  const change = async (part: Partial<Selection>) => {
    const { chosen: _, ...next } = changed(selection, part);
    if (JSON.stringify(next).length <= LONGEST_IN_ADDRESS) return go(next);
    const query = fishOf(next) as Record<string, unknown>;
    try {
      const { key } = await answer(
        api.POST("/api/v1/programmes/{programme_id}/selections", {
          params: { path: { programme_id: programme } },
          body: { query },
        }),
      );
      go(readSelection({ ...questionOf(next), chosen: key, species: next.species }));
    } catch {
      notify("The choice is too long for an address and could not be kept. Choose waters or days instead.");
    }
  };
  return { selection, change, error, ready: chosen === undefined || data !== undefined };
}
