import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, api, asForm, type Schemas } from "@/api/client";

export type Batch = Schemas["Batch"];
export type Kind = Schemas["TagKindEnum"];
export type Taken = Schemas["Taken"];

const of = (programme_id: string) => ({ path: { programme_id } });

export function useBatches(programme: string, enabled: boolean) {
  return useQuery({
    queryKey: ["tag-batches", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/tags/batches", { params: of(programme) })),
    enabled,
  });
}

export type HandingOut = Schemas["HandingOut"];

export function useForeignMarks(programme: string) {
  return useQuery({
    queryKey: ["foreign-marks", programme],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/foreign-marks", { params: of(programme) })),
  });
}

/** Marks of other programmes come in or are let go; what is told by them is asked for anew. */
function useExchange<T, R>(step: (given: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: step,
    onSuccess: () => {
      for (const key of ["foreign-marks", "fish-story", "return"]) void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

export function useTakeForeignMarks(programme: string) {
  return useExchange((file: File) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/foreign-marks", { params: of(programme), ...asForm({ file }) })),
  );
}

export function useForgetForeignMarks(programme: string) {
  return useExchange((owner: string) =>
    answer(
      api.POST("/api/v1/programmes/{programme_id}/foreign-marks/forgotten", { params: of(programme), body: { owner } }),
    ),
  );
}

/** Two records are one fish, one is two, or neither was so; all that shows fish is asked for anew. */
function useJoining<T>(step: (body: T) => Promise<Schemas["FishStory"]>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: step,
    onSuccess: () => {
      for (const key of ["fish-story", "tags", "capture", "returns", "return"])
        void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

export function useMergeFish(fish_id: string) {
  return useJoining((body: Schemas["MergeFishRequest"]) =>
    answer(api.POST("/api/v1/fish/{fish_id}/merged", { params: { path: { fish_id } }, body })),
  );
}

export function useSplitFish(fish_id: string) {
  return useJoining((body: Schemas["SplitFishRequest"]) =>
    answer(api.POST("/api/v1/fish/{fish_id}/split", { params: { path: { fish_id } }, body })),
  );
}

export function useTakeBackFish(fish_id: string) {
  return useJoining((body: Schemas["TakeBackFishRequest"]) =>
    answer(api.POST("/api/v1/fish/{fish_id}/taken-back", { params: { path: { fish_id } }, body })),
  );
}

export type FoundTag = Schemas["FoundTag"];

/** Everything that ever happened to one tag. */
export function useTagMoves(programme: string, { kind, number }: Pick<FoundTag, "kind" | "number">) {
  return useQuery({
    queryKey: ["tags", programme, "moves", kind, number],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/tags/{kind}/{number}/moves", {
          params: { path: { programme_id: programme, kind, number } },
        }),
      ),
  });
}

export function useHandingsOut(programme: string) {
  return useQuery({
    queryKey: ["tag-batches", programme, "handed-out"],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/tags/handed-out", { params: of(programme) })),
  });
}

/** Tags by a number, whole or part; nothing is asked for fewer than two signs. */
export function useTagsFound(programme: string, number: string) {
  return useQuery({
    queryKey: ["tags", programme, number],
    queryFn: () =>
      answer(api.GET("/api/v1/programmes/{programme_id}/tags", { params: { ...of(programme), query: { number } } })),
    enabled: number.length > 1,
  });
}

/** What would become of numbers, while they are typed. */
export function useTriedNumbers(programme: string, kind: Kind, batch: string | null, numbers: string) {
  return useQuery({
    queryKey: ["tag-numbers", programme, kind, batch, numbers],
    queryFn: async (): Promise<Taken> =>
      batch
        ? (
            await answer(
              api.POST("/api/v1/tags/batches/{batch_id}/numbers", {
                params: { path: { batch_id: batch } },
                body: { numbers, only_try: true },
              }),
            )
          ).taken
        : answer(
            api.POST("/api/v1/programmes/{programme_id}/tags/try", { params: of(programme), body: { kind, numbers } }),
          ),
    enabled: numbers.trim() !== "",
    placeholderData: (before) => before,
    retry: false,
  });
}

/** A change of the stock; all that shows it is asked for anew. */
function useStockStep<T, R>(step: (given: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: step,
    onSuccess: () => {
      for (const queryKey of [["tag-batches"], ["tags"], ["today"]]) void client.invalidateQueries({ queryKey });
    },
  });
}

export function useEnterBatch(programme: string) {
  return useStockStep((body: Schemas["EnterBatchRequest"]) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/tags/batches", { params: of(programme), body })),
  );
}

export function useAddNumbers() {
  return useStockStep(({ batch, numbers }: { batch: string; numbers: string }) =>
    answer(
      api.POST("/api/v1/tags/batches/{batch_id}/numbers", { params: { path: { batch_id: batch } }, body: { numbers } }),
    ),
  );
}

export function useDescribeBatch() {
  return useStockStep(({ batch, body }: { batch: string; body: Schemas["NewBatchRequest"] }) =>
    answer(api.POST("/api/v1/tags/batches/{batch_id}", { params: { path: { batch_id: batch } }, body })),
  );
}

export function useHandOut(programme: string) {
  return useStockStep((body: Schemas["HandOutRequest"]) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/tags/hand-out", { params: of(programme), body })),
  );
}

export function useMoveTags(programme: string) {
  return useStockStep((body: Schemas["MoveTagsRequest"]) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/tags/move", { params: of(programme), body })),
  );
}

/** Columns of a file that hold numbers of a kind. */
export function useNumbersOfFile(programme: string) {
  return useMutation({
    mutationFn: ({ kind, file }: { kind: Kind; file: File }) =>
      answer(
        api.POST("/api/v1/programmes/{programme_id}/tags/file", {
          params: of(programme),
          ...asForm({ file, kind }),
        }),
      ),
  });
}

/** What was done to one fish, and its photos. */
export function useFishHandling(fish_id: string) {
  return useQuery({
    queryKey: ["fish", fish_id, "handling"],
    queryFn: () => answer(api.GET("/api/v1/fish/{fish_id}/handling", { params: { path: { fish_id } } })),
  });
}

export type Transmitter = Schemas["Transmitter"];

/** Tags with a battery, those that end first at the top. */
export function useTransmitters(programme: string, enabled: boolean) {
  return useQuery({
    queryKey: ["tag-batches", programme, "transmitters"],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/transmitters", { params: of(programme) })),
    enabled,
  });
}

/** Notes when tags were activated. */
export function useActivateTags(programme: string) {
  return useStockStep((body: Schemas["ActivateTagsRequest"]) =>
    answer(api.POST("/api/v1/programmes/{programme_id}/transmitters", { params: of(programme), body })),
  );
}
