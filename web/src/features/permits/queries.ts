import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";

export type Permit = Schemas["Permit"];
export type Allowance = Schemas["Allowance"];

/** Adds a permit or certificate, or changes the one with that key. */
export function useSavePermit(programme_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, ...body }: Schemas["PermitRequest"] & { id?: string }) =>
      answer(
        id
          ? api.POST("/api/v1/permits/{permit_id}", { params: { path: { permit_id: id } }, body })
          : api.POST("/api/v1/programmes/{programme_id}/permits", { params: { path: { programme_id } }, body }),
      ),
    onSuccess: () => {
      // who may go out, and the permit's name beside its allowances
      for (const key of ["plan", "survey", "allowances"]) client.invalidateQueries({ queryKey: [key] });
    },
  });
}

export function useAllowances(programme_id: string) {
  return useQuery({
    queryKey: ["allowances", programme_id],
    queryFn: () =>
      answer(api.GET("/api/v1/programmes/{programme_id}/allowances", { params: { path: { programme_id } } })),
  });
}

type AllowanceStep =
  | { what: "add"; body: Schemas["NewAllowanceRequest"] }
  | { what: "change"; id: string; body: Schemas["NewAllowanceRequest"] }
  | { what: "deleted"; id: string; deleted: boolean };

/** Adds, changes or deletes what a permit allows; each answers with all of them. */
export function useAllowanceStep(programme_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (step: AllowanceStep) => {
      if (step.what === "add")
        return answer(
          api.POST("/api/v1/programmes/{programme_id}/allowances", {
            params: { path: { programme_id } },
            body: step.body,
          }),
        );
      const params = { path: { allowance_id: step.id } };
      return answer(
        step.what === "change"
          ? api.POST("/api/v1/allowances/{allowance_id}", { params, body: step.body })
          : api.POST("/api/v1/allowances/{allowance_id}/deleted", { params, body: { deleted: step.deleted } }),
      );
    },
    onSuccess: (allowances) => {
      client.setQueryData(["allowances", programme_id], allowances);
      void client.invalidateQueries({ queryKey: ["today"] });
    },
  });
}
