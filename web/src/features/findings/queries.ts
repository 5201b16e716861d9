import { answer, api } from "@/api/client";
import { asAddress, type Selection } from "@/features/selection";
import { useFinding } from "./use-finding";

type Asked = Selection & { species: string };

export function useSizeFinding(programme: string, selection: Asked) {
  return useFinding(["size", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/size", {
        params: { path: { programme_id: programme }, query: asAddress(selection) },
      }),
    ),
  );
}

export function useConditionFinding(programme: string, { bin_mm: _, ...selection }: Asked) {
  return useFinding(["condition", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/condition", {
        params: { path: { programme_id: programme }, query: asAddress(selection) },
      }),
    ),
  );
}

export function useSizeCompared(programme: string, selection: Asked) {
  return useFinding(["size-compared", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/size-compared", {
        params: { path: { programme_id: programme }, query: asAddress(selection) },
      }),
    ),
  );
}

export function useConditionCompared(programme: string, { bin_mm: _, ...selection }: Asked) {
  return useFinding(["condition-compared", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/condition-compared", {
        params: { path: { programme_id: programme }, query: asAddress(selection) },
      }),
    ),
  );
}

export function useCohorts(programme: string, selection: Asked) {
  return useFinding(["cohorts", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/cohorts", {
        params: { path: { programme_id: programme }, query: asAddress(selection) },
      }),
    ),
  );
}
