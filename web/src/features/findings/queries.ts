import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api } from "@/api/client";
import type { Selection } from "./selection";

export function useSelectionOptions(programme: string) {
  return useQuery({
    queryKey: ["selection-options", programme],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/selection-options", {
          params: { path: { programme_id: programme } },
        }),
      ),
  });
}

export function useSizeFinding(programme: string, selection: Selection & { species: string }) {
  return useQuery({
    queryKey: ["findings", "size", programme, selection],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/findings/size", {
          params: { path: { programme_id: programme }, query: selection },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useConditionFinding(programme: string, { bin_mm: _, ...selection }: Selection & { species: string }) {
  return useQuery({
    queryKey: ["findings", "condition", programme, selection],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/findings/condition", {
          params: { path: { programme_id: programme }, query: selection },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
