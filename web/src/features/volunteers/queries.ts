import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, asForm, type Schemas } from "@/api/client";

export type ListedKit = Schemas["ListedKit"];
export type SheetRow = Schemas["SheetRow"];
export type FiledCard = Schemas["FiledCard"];
export type CardSheet = Schemas["CardSheet"];

const of = (programme_id: string) => ({ path: { programme_id } });

/** Everybody with tags or cards, and what waits. */
export function useKits(programme: string) {
  return useQuery({
    queryKey: ["kits", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/kits", { params: of(programme) })),
  });
}

/** The letter that asks a volunteer for what is missing. */
export function useCardLetter(kit_id: string) {
  return useQuery({
    queryKey: ["card-letter", kit_id],
    queryFn: () => answer(api.GET("/api/v1/kits/{kit_id}/letter", { params: { path: { kit_id } } })),
    retry: false,
  });
}

/** Sends it, or notes that it was handed over otherwise. */
export function useSendCardLetter(programme: string, kit_id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (by_mail: boolean) =>
      answer(api.POST("/api/v1/kits/{kit_id}/letter", { params: { path: { kit_id } }, body: { by_mail } })),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["kits", programme] });
      void client.invalidateQueries({ queryKey: ["card-letter", kit_id] });
    },
  });
}

/** The lines of a file as cards. */
export function useCardSheet(programme: string) {
  return useMutation({
    mutationFn: ({ file, columns }: { file: File; columns: Record<string, string> }) =>
      answer(
        api.POST("/api/v1/programmes/{programme_id}/paper-cards/file", {
          params: of(programme),
          ...asForm({ file, columns: JSON.stringify(columns) }),
        }),
      ),
  });
}

/** Stores paper cards, or sees what would become of each. */
export function useFileCards(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["FileCardsRequest"]) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/paper-cards", { params: of(programme), body })),
    onSuccess: (_, { store }) => {
      if (store) void client.invalidateQueries(); // cards place tags and make encounters: what counts fish is asked anew
    },
  });
}
