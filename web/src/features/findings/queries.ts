import { answer, api } from "@/api/client";
import { asAddress, type Selection } from "@/features/selection";
import { useFinding } from "./use-finding";

type Asked = Selection & { species: string };

/** Groups that are compared, and cohorts, are over sites or over fish: what another kind was asked of any year is no part of it. */
const ofTheseYears = (asked: Asked): Asked & { over?: "fish" } => ({
  ...asked,
  over: asked.over === "fish" ? "fish" : undefined,
});

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
        params: { path: { programme_id: programme }, query: asAddress(ofTheseYears(selection)) },
      }),
    ),
  );
}

export function useConditionCompared(programme: string, { bin_mm: _, ...selection }: Asked) {
  return useFinding(["condition-compared", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/condition-compared", {
        params: { path: { programme_id: programme }, query: asAddress(ofTheseYears(selection)) },
      }),
    ),
  );
}

export function useCohorts(programme: string, selection: Asked) {
  return useFinding(["cohorts", programme, selection], () =>
    answer(
      api.GET("/api/v1/programmes/{programme_id}/findings/cohorts", {
        params: { path: { programme_id: programme }, query: asAddress(ofTheseYears(selection)) },
      }),
    ),
  );
}
