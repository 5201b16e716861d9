import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { v7 as uuidv7 } from "uuid";
import { answer, api, asForm, type Schemas } from "@/api/client";
import { isGoing } from "@/ui/JobProgress";

export type FileRow = Schemas["Import"];
export type Answers = Schemas["Answers"];

export function useFiles(programme: string) {
  return useQuery({
    queryKey: ["imports", programme],
    queryFn: () =>
      answer(api.GET("/api/v1/programmes/{programme_id}/imports", { params: { path: { programme_id: programme } } })),
  });
}

/** One file; asked again and again while the worker goes through it. What it brought is then read anew everywhere. */
export function useFile(id: string) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["import", id],
    queryFn: () => answer(api.GET("/api/v1/imports/{import_id}", { params: { path: { import_id: id } } })),
    refetchInterval: ({ state }) => (isGoing(state.data?.job) ? 700 : false),
  });
  const going = isGoing(query.data?.job);
  const went = useRef(going);
  useEffect(() => {
    if (went.current && !going) client.invalidateQueries();
    went.current = going;
  }, [client, going]);
  return query;
}

export const LARGEST_MB = 64;

export function useUpload(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (file: File) => {
      if (file.size > LARGEST_MB * 1024 * 1024)
        throw new Error(
          `${file.name} has ${Math.round(file.size / 1024 / 1024)} MB; at most ${LARGEST_MB} MB are taken. Bring it in as several files.`,
        );
      return answer(
        api.POST("/api/v1/programmes/{programme_id}/imports", {
          params: { path: { programme_id: programme } },
          ...asForm({ file }),
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ["imports"] }),
  });
}

type Step = { what: "try"; answers: Answers } | { what: "bring-in" | "take-back" };

/** Tries a file, brings it in, or takes it back. */
export function useStep(id: string) {
  const client = useQueryClient();
  const path = { params: { path: { import_id: id } } };
  return useMutation({
    mutationFn: (step: Step) =>
      answer(
        step.what === "try"
          ? api.POST("/api/v1/imports/{import_id}/try", { ...path, body: step.answers })
          : step.what === "bring-in"
            ? api.POST("/api/v1/imports/{import_id}/bring-in", path)
            : api.POST("/api/v1/imports/{import_id}/take-back", path),
      ),
    onSuccess: (row) => {
      client.setQueryData(["import", id], row);
      if (row.state === "back") return client.invalidateQueries();
    },
  });
}

/** Mappings that were saved by name. */
export function useMappings(programme: string) {
  return useQuery({
    queryKey: ["mappings", programme],
    queryFn: () =>
      answer(api.GET("/api/v1/programmes/{programme_id}/mappings", { params: { path: { programme_id: programme } } })),
  });
}

export function useSaveMapping(programme: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; answers: Answers }) =>
      answer(
        api.POST("/api/v1/programmes/{programme_id}/mappings", {
          params: { path: { programme_id: programme } },
          body: { id: uuidv7(), ...body },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ["mappings"] }),
  });
}

export function useForget(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => answer(api.DELETE("/api/v1/imports/{import_id}", { params: { path: { import_id: id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["imports"] }),
  });
}
