import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";

const of = (programme_id: string) => ({ params: { path: { programme_id } } });

export function useSpecies(programme: string) {
  return useQuery({
    queryKey: ["species", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/species", of(programme))),
  });
}

export function useSetSpecies(programme: string) {
  const client = useQueryClient();
  return useMutation({
    // one after the other, and each on top of the one before: two quick touches both count
    mutationKey: ["set-species"],
    scope: { id: `species-${programme}` },
    onMutate: (codes) =>
      client.setQueryData(
        ["species", programme],
        (now: Schemas["SpeciesList"] | undefined) => now && { ...now, listed: codes },
      ),
    onError: () => client.invalidateQueries({ queryKey: ["species", programme] }),
    mutationFn: (codes: string[]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/species", { ...of(programme), body: { codes } })),
    onSuccess: (species) => {
      if (client.isMutating({ mutationKey: ["set-species"] }) <= 1)
        client.setQueryData(["species", programme], species);
      for (const key of ["today", "selection-options"]) void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

export type SpeciesValues = Required<Schemas["SpeciesValues"]>;

const ofSpecies = (programme_id: string, code: string) => ({ params: { path: { programme_id, code } } });

export function useSpeciesValues(programme: string, code: string) {
  return useQuery({
    queryKey: ["species-values", programme, code],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/species/{code}", ofSpecies(programme, code))),
  });
}

/** Describes a species for this programme, or knows it as shipped again where nothing is given. */
export function useDescribeSpecies(programme: string, code: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ as = code, values }: { as?: string; values: Schemas["SpeciesValuesRequest"] | null }) =>
      answer(
        values
          ? api.POST("/api/v1/programmes/{programme_id}/species/{code}", { ...ofSpecies(programme, as), body: values })
          : api.POST("/api/v1/programmes/{programme_id}/species/{code}/as-shipped", ofSpecies(programme, as)),
      ),
    onSuccess: () => {
      for (const key of ["species", "species-values", "today", "selection-options", "finding", "deck"])
        void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

/** A new one: nothing is known of it yet, except that it needs these. */
export const NOTHING_KNOWN: SpeciesValues = {
  common_name: "",
  scientific_name: "",
  words: [],
  length_type: "TL",
  usual_from_mm: 50,
  usual_to_mm: 500,
  least_mm: 10,
  most_mm: 1000,
  line: { log10_a: -5, b: 3, sd: 0.08, source: "a general line, until fish are weighed" },
  standard_weight: null,
  categories: null,
  conversions: [],
  legal: null,
  smallest_to_tag_mm: null,
  lookalikes: [],
  special_interest: false,
  places_hidden: false,
  swim_bladder: "closed",
};
