import { keepPreviousData, useQueries } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { asAddress, fishOf, type Selection } from "@/features/selection";
import type { Sort } from "./register-search";

export const REGISTER_PAGE = 100;

interface Asked {
  programme: string;
  selection: Selection;
  sort: Sort;
  deleted: boolean;
  /** Pages that are in sight. */
  pages: number[];
  /** How many rows an earlier page said there are, and of what. */
  total: { asked: string; total: number };
  onTotal: (total: { asked: string; total: number }) => void;
}

/** The pages of the register that are in sight: their rows by place, and how many there are in all. */
export function useRegisterPages({ programme, selection, sort, deleted, pages, total: last, onTotal }: Asked) {
  const asking = JSON.stringify([programme, selection, deleted]);
  const found = useQueries({
    queries: (pages.length ? pages : [0]).map((page) => ({
      queryKey: ["register", programme, selection, sort, deleted, page],
      queryFn: async () => {
        const answered = await answer(
          api.GET("/api/v1/programmes/{programme_id}/register", {
            params: {
              path: { programme_id: programme },
              query: {
                ...asAddress(fishOf(selection)),
                sort,
                deleted,
                row: page * REGISTER_PAGE,
                limit: REGISTER_PAGE,
                // counting a million rows takes longer than a page of them
                total: page > 0 && last.asked === asking ? last.total : undefined,
              },
            },
          }),
        );
        return answered;
      },
      placeholderData: keepPreviousData,
    })),
  });
  const rows = new Map<number, Schemas["RegisterRow"]>();
  for (const [place, { data, isPlaceholderData }] of found.entries()) {
    if (isPlaceholderData || !data) continue;
    for (const [at, row] of data.rows.entries()) rows.set((pages[place] ?? 0) * REGISTER_PAGE + at, row);
  }
  const counted = found.find(({ data, isPlaceholderData }) => data && !isPlaceholderData)?.data?.total;
  useEffect(() => {
    if (counted !== undefined) onTotal({ asked: asking, total: counted });
  }, [asking, counted, onTotal]);
  return {
    columns: found.find(({ data }) => data)?.data?.columns ?? [],
    rows,
    failure: found.find(({ error }) => error)?.error,
    ready: found.every(({ isSuccess }) => isSuccess),
  };
}
