import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";
import type { Box } from "./returns-search";

export type Report = Schemas["Return"];
export type WholeReport = Schemas["WholeReturn"];
export type Decision = Schemas["DecisionRequest"];
type State = Schemas["ReturnStateEnum"];

const STATES: Record<Box, State[]> = {
  open: ["received", "matched", "asked"],
  verified: ["verified"],
  rejected: ["rejected"],
  all: [],
};

/** As many reports come at once. */
const PAGE = 100;

const of = (programme_id: string) => ({ path: { programme_id } });

export function useReturns(programme: string, box: Box) {
  return useInfiniteQuery({
    queryKey: ["returns", programme, box],
    queryFn: ({ pageParam: before }) =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/returns", {
          params: { ...of(programme), query: { state: STATES[box], before } },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: ({ reports }) => (reports.length === PAGE ? reports.at(-1)!.id : undefined),
    refetchInterval: 60_000, // reports come in by themselves
  });
}

export function useReturn(return_id: string) {
  return useQuery({
    queryKey: ["return", return_id],
    queryFn: () => answer(api.GET("/api/v1/returns/{return_id}", { params: { path: { return_id } } })),
  });
}

/** A step with reports; all that shows them or their fish is asked for anew. */
function useStep<T, R>(step: (given: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: step,
    onSettled: () => {
      for (const key of ["returns", "return", "today", "fish-story", "tags", "tag-batches"])
        void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

export function useDecide(programme: string) {
  return useStep((body: Decision) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/returns/decisions", { params: of(programme), body })),
  );
}

export function useMatch(return_id: string) {
  return useStep((body: Schemas["MatchRequest"]) =>
    answer(api.POST("/api/v1/returns/{return_id}/match", { params: { path: { return_id } }, body })),
  );
}

export function useCorrectReturn(return_id: string) {
  return useStep((body: Schemas["SaidRequest"]) =>
    answer(api.POST("/api/v1/returns/{return_id}", { params: { path: { return_id } }, body })),
  );
}

export function useEnterReturn(programme: string) {
  return useStep((body: Schemas["EnterReportRequest"]) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/returns", { params: of(programme), body })),
  );
}

export function useRewards(programme: string) {
  return useQuery({
    queryKey: ["returns", programme, "rewards"],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/rewards", { params: of(programme) })),
  });
}

export function usePayReward(return_id: string) {
  return useStep((body: Schemas["PayRequest"]) =>
    answer(api.POST("/api/v1/returns/{return_id}/reward", { params: { path: { return_id } }, body })),
  );
}

export function usePublicPage(programme: string) {
  return useQuery({
    queryKey: ["public-page", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/public-page", { params: of(programme) })),
  });
}

export function useChangePublicPage(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["PageSettingsRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/public-page", { params: of(programme), body })),
    onSuccess: (page) => client.setQueryData(["public-page", programme], page),
  });
}
