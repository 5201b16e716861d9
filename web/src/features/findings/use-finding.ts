import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";

type Working = Schemas["FindingJob"];

const isWorking = (answer: unknown): answer is Working =>
  typeof answer === "object" && answer !== null && "job" in answer;

/** A finding: at once, or with the job that works it out until it is there; asked again while that goes on. */
export function useFinding<T extends object>(key: unknown[], ask: () => Promise<T | Working>) {
  const { data, error, isPlaceholderData, refetch } = useQuery({
    queryKey: ["findings", ...key],
    queryFn: ask,
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) => (isWorking(state.data) ? 700 : false),
  });
  const working = isWorking(data) ? data : null;
  return {
    finding: working ? undefined : (data as T | undefined),
    job: working?.job ?? null,
    error,
    isPlaceholderData,
    again: () => void refetch(),
  };
}
