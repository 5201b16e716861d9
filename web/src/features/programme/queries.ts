/** What several stages ask of the programme as a whole. */
import { useQuery } from "@tanstack/react-query";
import { answer, api } from "@/api/client";

/** The protocol that holds, or an earlier version of it. */
export function useProtocol(programme_id: string, number: number | null = null) {
  return useQuery({
    queryKey: ["protocol", programme_id, number],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/protocol", {
          params: { path: { programme_id }, query: number === null ? {} : { number } },
        }),
      ),
  });
}

export function usePlan(programme_id: string) {
  return useQuery({
    queryKey: ["plan", programme_id],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/plan", { params: { path: { programme_id } } })),
  });
}

export function usePeople(programme_id: string) {
  return useQuery({
    queryKey: ["people", programme_id],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/people", { params: { path: { programme_id } } })),
  });
}
