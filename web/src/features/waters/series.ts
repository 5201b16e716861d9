import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, asForm, type Schemas } from "@/api/client";

export type Series = Schemas["Series"];

/** Readings from elsewhere, of all waters of a programme. */
export function useSeries(programme_id: string) {
  return useQuery({
    queryKey: ["series", programme_id],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/series", { params: { path: { programme_id } } })),
  });
}

interface NewSeries {
  water: string;
  name: string;
  unit: string;
  source: string;
  file: File;
}

/** Brings a file in, or takes a series out and puts it back. */
export function useSeriesStep(programme: string) {
  const client = useQueryClient();
  const onSuccess = () => {
    for (const key of ["series", "series-overlay"]) void client.invalidateQueries({ queryKey: [key] });
  };
  const bring = useMutation({
    mutationFn: ({ water, ...told }: NewSeries) =>
      answer(api.POST("/api/v1/waters/{water_id}/series", { params: { path: { water_id: water } }, ...asForm(told) })),
    onSuccess,
  });
  const takeOut = useMutation({
    mutationFn: ({ id, deleted }: { id: string; deleted: boolean }) =>
      answer(
        api.POST("/api/v1/series/{series_id}/deleted", { params: { path: { series_id: id } }, body: { deleted } }),
      ),
    onSuccess: (series) => client.setQueryData(["series", programme], series),
  });
  return { bring, takeOut };
}
