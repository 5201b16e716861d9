import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";
import { formatDay } from "@/ui/words/format";

export type Course = Schemas["Course"];
export type CoursePassed = Course["passed"][number];
export type CourseResult = Schemas["CourseResult"];

const of = (programme_id: string) => ({ path: { programme_id } });

/** Questions of the tagging course, and who has passed it. */
export function useCourse(programme: string) {
  return useQuery({
    queryKey: ["course", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/tagging-course", { params: of(programme) })),
  });
}

/** Hands the answers in. */
export function useTakeCourse(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["CourseAnswersRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/tagging-course", { params: of(programme), body })),
    onSuccess: ({ passed }) => {
      if (!passed) return;
      void client.invalidateQueries({ queryKey: ["course", programme] });
      void client.invalidateQueries({ queryKey: ["plan", programme] }); // where permits and certificates stand
    },
  });
}

/** How somebody stands with the course, in a few words. */
export function courseWords(passed: CoursePassed | undefined): string {
  if (!passed) return "not taken";
  return passed.state === "expired"
    ? `expired ${formatDay(passed.last)}`
    : `passed, valid until ${formatDay(passed.last)}`;
}
