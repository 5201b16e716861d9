import { useQuery } from "@tanstack/react-query";
import { answer, api } from "@/api/client";

export function useSelectionOptions(programme: string) {
  return useQuery({
    queryKey: ["selection-options", programme],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/selection-options", {
          params: { path: { programme_id: programme } },
        }),
      ),
  });
}
