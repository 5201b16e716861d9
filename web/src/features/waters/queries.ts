import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as uuidv7 } from "uuid";
import { answer, api, asForm, type Schemas } from "@/api/client";

export type Reach = Schemas["Reach"];
export type Layer = Schemas["Layer"];
export type PlannedSite = Schemas["PlannedSite"];

export function useReach(water_id: string) {
  return useQuery({
    queryKey: ["reach", water_id],
    queryFn: () => answer(api.GET("/api/v1/waters/{water_id}/reach", { params: { path: { water_id } } })),
    retry: false,
  });
}

/** The lines of the programme's waters, the ground of every map. */
export function useLayers(programme_id: string) {
  const { data } = useQuery({
    queryKey: ["layers", programme_id],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/layers", { params: { path: { programme_id } } })),
  });
  return data ?? [];
}

export type ReachStep =
  | { file: File; turn: boolean }
  | { zones: Schemas["ZonesRequest"]["zones"]; confirmed?: boolean; reason?: string };

/** Gives a water its line from a file, or its zones. */
export function useReachStep(water_id: string) {
  const client = useQueryClient();
  const params = { params: { path: { water_id } } };
  return useMutation({
    mutationFn: (step: ReachStep) =>
      answer(
        "zones" in step
          ? api.POST("/api/v1/waters/{water_id}/zones", { ...params, body: step })
          : api.POST("/api/v1/waters/{water_id}/line", {
              ...params,
              ...asForm({ file: step.file, turn: String(step.turn) }),
            }),
      ),
    onSuccess: (reach) => {
      client.setQueryData(["reach", water_id], reach);
      client.invalidateQueries({ queryKey: ["layers"] });
      client.invalidateQueries({ queryKey: ["survey"] }); // its sites may lie elsewhere now, or beyond the end
    },
  });
}

export function useWaters(programme: string) {
  return useQuery({
    queryKey: ["waters", programme],
    queryFn: () =>
      answer(api.GET("/api/v1/programmes/{programme_id}/waters", { params: { path: { programme_id: programme } } })),
  });
}

export function useNewWater(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NewWaterRequest"]) =>
      answer(
        api.POST("/api/v1/programmes/{programme_id}/new-water", {
          params: { path: { programme_id: programme } },
          body,
        }),
      ),
    onSuccess: () => {
      for (const key of ["waters", "today", "selection-options"]) void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

export function useSites(water_id: string) {
  return useQuery({
    queryKey: ["sites", water_id],
    queryFn: () => answer(api.GET("/api/v1/waters/{water_id}/sites", { params: { path: { water_id } } })),
  });
}

export function useAddSite(water_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NewSiteRequest"]) =>
      answer(
        api.POST("/api/v1/waters/{water_id}/sites", {
          params: { path: { water_id } },
          body: { id: uuidv7(), ...body },
        }),
      ),
    onSuccess: () => {
      for (const key of ["sites", "waters", "today", "selection-options"])
        void client.invalidateQueries({ queryKey: [key] });
    },
  });
}
