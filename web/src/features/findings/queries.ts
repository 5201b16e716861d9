import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, api } from "@/api/client";
import type { Selection } from "./selection";

type Asked = Selection & { species: string };

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

export function useConditionFinding(programme: string, { bin_mm: _, ...selection }: Asked) {
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

export function useSizeCompared(programme: string, selection: Asked) {
  return useQuery({
    queryKey: ["findings", "size-compared", programme, selection],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/findings/size-compared", {
          params: { path: { programme_id: programme }, query: selection },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useConditionCompared(programme: string, { bin_mm: _, ...selection }: Asked) {
  return useQuery({
    queryKey: ["findings", "condition-compared", programme, selection],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/findings/condition-compared", {
          params: { path: { programme_id: programme }, query: selection },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useCohorts(programme: string, selection: Asked) {
  return useQuery({
    queryKey: ["findings", "cohorts", programme, selection],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/findings/cohorts", {
          params: { path: { programme_id: programme }, query: selection },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
