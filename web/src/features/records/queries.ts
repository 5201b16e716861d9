import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as uuidv7 } from "uuid";
import { answer, api, type Schemas } from "@/api/client";

export function useFish(capture: string) {
  return useQuery({
    queryKey: ["capture", capture],
    queryFn: () => answer(api.GET("/api/v1/captures/{capture_id}", { params: { path: { capture_id: capture } } })),
  });
}

export function useFishStory(fish: string | null) {
  return useQuery({
    queryKey: ["fish-story", fish],
    enabled: fish !== null,
    queryFn: () => answer(api.GET("/api/v1/fish/{fish_id}", { params: { path: { fish_id: fish ?? "" } } })),
  });
}

export function useFishHistory(capture: string) {
  return useQuery({
    queryKey: ["capture", capture, "history"],
    queryFn: () =>
      answer(api.GET("/api/v1/captures/{capture_id}/history", { params: { path: { capture_id: capture } } })),
  });
}

/** The runs of an outing, in which a fish may have been caught. */
export function useRunsOf(outing_id: string) {
  return useQuery({
    queryKey: ["runs", outing_id],
    queryFn: async () =>
      (await answer(api.GET("/api/v1/outings/{outing_id}/live", { params: { path: { outing_id } } }))).live?.runs ?? [],
  });
}

type Correction = Omit<Schemas["CorrectionRequest"], "id">;

/** Corrects a fish; every finding is then computed anew. */
export function useCorrection(capture: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (correction: Correction) =>
      answer(
        api.POST("/api/v1/captures/{capture_id}", {
          params: { path: { capture_id: capture } },
          body: { id: uuidv7(), ...correction },
        }),
      ),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ["capture", capture] }),
        client.invalidateQueries({ queryKey: ["findings"] }),
        client.invalidateQueries({ queryKey: ["register"] }),
      ]),
  });
}

/** Takes a fish out of the record, or restores it. */
export function useMarking(capture: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Omit<Schemas["DeletedRequest"], "id">) =>
      answer(
        api.POST("/api/v1/captures/{capture_id}/deleted", {
          params: { path: { capture_id: capture } },
          body: { id: uuidv7(), ...body },
        }),
      ),
    onSuccess: () => client.invalidateQueries(),
  });
}
