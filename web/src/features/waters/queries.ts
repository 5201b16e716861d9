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
      // its shape is another, and sites of surveys may lie elsewhere now, or beyond the end
      for (const key of ["layers", "waters", "survey"]) client.invalidateQueries({ queryKey: [key] });
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

const GROUND = ["waters", "sites", "layers", "reach", "today", "selection-options"] as const;

/** Changes or deletes a water or a site; every page that shows the ground reads it anew. */
export function useCorrectGround() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (
      step:
        | { water: string; body: Schemas["ChangeWaterRequest"] }
        | { water: string; deleted: true }
        | { site: string; body: Schemas["ChangeSiteRequest"] }
        | { site: string; deleted: boolean },
    ): Promise<void> => {
      if ("water" in step) {
        const params = { params: { path: { water_id: step.water } } };
        if ("body" in step) await answer(api.POST("/api/v1/waters/{water_id}", { ...params, body: step.body }));
        else await answer(api.POST("/api/v1/waters/{water_id}/deleted", params));
        return;
      }
      const params = { params: { path: { site_id: step.site } } };
      if ("body" in step) await answer(api.POST("/api/v1/sites/{site_id}", { ...params, body: step.body }));
      else await answer(api.POST("/api/v1/sites/{site_id}/deleted", { ...params, body: { deleted: step.deleted } }));
    },
    onSuccess: () => {
      for (const key of GROUND) void client.invalidateQueries({ queryKey: [key] });
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
