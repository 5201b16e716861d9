import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { v7 as uuidv7 } from "uuid";
import { answer, api, type Schemas } from "@/api/client";
import { isGoing } from "@/ui/JobProgress";

export type Survey = Schemas["Survey"];
export type Parts = Required<Schemas["Parts"]>;
/** Some fields of some parts: all others stay as they are. */
export type ChangeParts = Schemas["ChangePartsRequest"];
export type ChangeSurvey = Schemas["ChangeSurveyRequest"];

const surveyPath = (survey_id: string) => ({ params: { path: { survey_id } } });

export function useSurvey(id: string) {
  return useQuery({
    queryKey: ["survey", id],
    queryFn: () => answer(api.GET("/api/v1/surveys/{survey_id}", surveyPath(id))),
  });
}

type Step =
  | { what: "change"; body: ChangeSurvey }
  | { what: "sites" }
  | { what: "move"; body: Schemas["MoveSiteRequest"] }
  | { what: "outing"; body: Schemas["MakeOutingRequest"] };

/** Every change of a survey; its answers are then computed anew. */
export function useSurveyStep(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (step: Step) =>
      answer(
        step.what === "change"
          ? api.POST("/api/v1/surveys/{survey_id}", { ...surveyPath(id), body: step.body })
          : step.what === "sites"
            ? api.POST("/api/v1/surveys/{survey_id}/sites", surveyPath(id))
            : step.what === "move"
              ? api.POST("/api/v1/surveys/{survey_id}/sites/move", { ...surveyPath(id), body: step.body })
              : api.POST("/api/v1/surveys/{survey_id}/outing", { ...surveyPath(id), body: step.body }),
      ),
    onSuccess: (survey) => {
      client.setQueryData(["survey", id], survey);
      for (const key of ["survey-settings", "survey-kit"]) client.invalidateQueries({ queryKey: [key, id] });
      client.invalidateQueries({ queryKey: ["plan"] });
      client.invalidateQueries({ queryKey: ["today"] });
    },
  });
}

/** The same survey from another day on, with its sites. */
export function usePlanAgain(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (first: string) =>
      answer(api.POST("/api/v1/surveys/{survey_id}/again", { ...surveyPath(id), body: { first } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["plan"] }),
  });
}

/** Takes a survey out of the plans, or puts it back. */
export function useTakeOut(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (deleted: boolean) =>
      answer(api.POST("/api/v1/surveys/{survey_id}/deleted", { ...surveyPath(id), body: { id: uuidv7(), deleted } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["plan"] }),
  });
}

export function useSettings(id: string) {
  return useQuery({
    queryKey: ["survey-settings", id],
    queryFn: () => answer(api.GET("/api/v1/surveys/{survey_id}/settings", surveyPath(id))),
    retry: false,
  });
}

export function useKit(id: string) {
  return useQuery({
    queryKey: ["survey-kit", id],
    queryFn: () => answer(api.GET("/api/v1/surveys/{survey_id}/kit", surveyPath(id))),
    placeholderData: keepPreviousData,
  });
}

export function useUnits(programme_id: string) {
  return useQuery({
    queryKey: ["units", programme_id],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/units", { params: { path: { programme_id } } })),
  });
}

export function useNewUnit(programme_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["ElectroUnitRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/units", { params: { path: { programme_id } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["units"] }),
  });
}

export function useNewSeason(programme_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NewSeasonRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/seasons", { params: { path: { programme_id } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["plan"] }),
  });
}

export function useEnough(programme_id: string, query: Record<string, number>) {
  return useQuery({
    queryKey: ["enough", programme_id, query],
    queryFn: () =>
      answer(api.GET("/api/v1/programmes/{programme_id}/enough", { params: { path: { programme_id }, query } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

/** Rehearsals of a survey; asked again and again while one runs. */
export function useRehearsals(id: string) {
  return useQuery({
    queryKey: ["rehearsals", id],
    queryFn: () => answer(api.GET("/api/v1/surveys/{survey_id}/rehearsals", surveyPath(id))),
    refetchInterval: ({ state }) => (state.data?.some(({ job }) => isGoing(job)) ? 700 : false),
  });
}

export function useRehearse(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NewRehearsalRequest"]) =>
      answer(api.POST("/api/v1/surveys/{survey_id}/rehearsals", { ...surveyPath(id), body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["rehearsals", id] }),
  });
}

export function useNewSurvey(programme_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["NewSurveyRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/plan", { params: { path: { programme_id } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["plan"] }),
  });
}
