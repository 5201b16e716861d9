// biome-ignore-all lint/a11y/useSemanticElements: a virtual table cannot be laid out as a table element
// biome-ignore-all lint/a11y/useFocusableInteractive: rows are read, not operated; the button in each is
import { keepPreviousData, useQueries } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import type { Selection } from "@/features/findings/selection";
import { formatDay } from "@/ui/format";
import { Empty, ErrorMessage } from "@/ui/Message";
import { nextSort, type Sort } from "./register-search";

const PAGE = 100;
const ROW_PX = 32;
const HEAD_PX = 33;
/** No browser lays out an element taller than this; beyond it rows share pixels. */
const TALLEST_PX = 8_000_000;
const COLUMNS = "grid-cols-[7rem_minmax(8rem,2fr)_4.5rem_3rem_4rem_3.5rem_7rem_7rem_3.5rem_5.5rem_minmax(5rem,2fr)]";

interface Props {
  programme: string;
  selection: Selection;
  sort: Sort;
  deleted: boolean;
  onSort: (sort: Sort) => void;
  onOpen: (capture: string) => void;
}

/** Only the rows in sight are in the page; their pages come as they are reached. */
export function RegisterTable({ programme, selection, sort, deleted, onSort, onOpen }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [last, setLast] = useState({ asked: "", total: 0 });
  const asking = JSON.stringify([programme, selection, deleted]);
  const total = last.total;
  const virtualizer = useVirtualizer({
    count: Math.min(total, Math.floor(TALLEST_PX / ROW_PX)),
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
    scrollMargin: HEAD_PX,
  });
  // with more rows than pixels the scrollbar's place is spread over all rows
  const stretched = total > Math.floor(TALLEST_PX / ROW_PX);
  const items = virtualizer.getVirtualItems();
  const count = Math.max(1, virtualizer.options.count - items.length);
  const first = items[0]?.index ?? 0;
  const begin = stretched ? Math.round((first / count) * Math.max(0, total - items.length)) : first;
  const pages = [...new Set(items.flatMap((_, place) => Math.floor((begin + place) / PAGE)))];
  const found = useQueries({
    queries: (pages.length ? pages : [0]).map((page) => ({
      queryKey: ["register", programme, selection, sort, deleted, page],
      queryFn: async () => {
        const answered = await answer(
          api.GET("/api/v1/programmes/{programme_id}/register", {
            params: {
              path: { programme_id: programme },
              query: {
                ...asked(selection),
                sort,
                deleted,
                row: page * PAGE,
                limit: PAGE,
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
    for (const [at, row] of data.rows.entries()) rows.set((pages[place] ?? 0) * PAGE + at, row);
  }
  const counted = found.find(({ data, isPlaceholderData }) => data && !isPlaceholderData)?.data?.total;
  useEffect(() => {
    if (counted !== undefined) setLast({ asked: asking, total: counted });
  }, [asking, counted]);
  const failure = found.find(({ error }) => error)?.error;
  return (
    <>
      {failure && <ErrorMessage failure={failure} />}
      <p role="status" className="text-sm text-muted">
        {total.toLocaleString("en")} captures
        {total > 0 && `, from ${(begin + 1).toLocaleString("en")}`}
      </p>
      <div role="table" aria-label="Captures" aria-rowcount={total + 1} className="min-h-0 overflow-x-auto">
        <div ref={frame} className="h-[calc(100dvh-14rem)] overflow-y-auto" data-testid="register">
          <div
            className={`grid ${COLUMNS} sticky top-0 z-10 border-b border-ink bg-paper text-sm font-semibold`}
            role="row"
          >
            <Head sort={sort} column="time" onSort={onSort}>
              Day
            </Head>
            <Head>Water</Head>
            <Head>Site</Head>
            <Head right>Run</Head>
            <Head>Species</Head>
            <Head right>Count</Head>
            <Head sort={sort} column="length" onSort={onSort} right>
              Length (mm)
            </Head>
            <Head sort={sort} column="mass" onSort={onSort} right>
              Mass (g)
            </Head>
            <Head>Sex</Head>
            <Head>Left as</Head>
            <Head>Marks, note</Head>
          </div>
          <div className="relative" style={{ height: virtualizer.getTotalSize() }}>
            {items.map((item, place) => {
              const index = begin + place;
              const row = rows.get(index);
              return (
                <div
                  key={item.key}
                  role="row"
                  aria-rowindex={index + 2}
                  className={`absolute inset-x-0 grid ${COLUMNS} items-center border-b border-line hover:bg-wash ${row?.deleted ? "text-muted line-through" : ""}`}
                  style={{ height: ROW_PX, transform: `translateY(${item.start - HEAD_PX}px)` }}
                  data-row={index}
                >
                  {row ? <Cells row={row} onOpen={onOpen} /> : <Cell>...</Cell>}
                </div>
              );
            })}
          </div>
        </div>
      </div>
      {found.every(({ isSuccess }) => isSuccess) && total === 0 && (
        <Empty>No capture in this selection. Widen it on the left.</Empty>
      )}
    </>
  );
}

function Cells({ row, onOpen }: { row: Schemas["RegisterRow"]; onOpen: (capture: string) => void }) {
  const about = (basis: string) => (basis === "estimated" ? "~" : "");
  return (
    <>
      <Cell>
        <button
          type="button"
          className="cursor-pointer underline decoration-line underline-offset-4 hover:decoration-ink"
          onClick={() => onOpen(row.id)}
        >
          {formatDay(row.date)}
        </button>
      </Cell>
      <Cell>{row.water}</Cell>
      <Cell>{row.site}</Cell>
      <Cell right>{row.run}</Cell>
      <Cell>{row.species}</Cell>
      <Cell right>{row.count > 1 && row.count}</Cell>
      <Cell right>{row.length_mm !== null && `${about(row.length_basis)}${row.length_mm} ${row.length_type}`}</Cell>
      <Cell right>{row.mass_g !== null && `${about(row.mass_basis)}${row.mass_g.toLocaleString("en")}`}</Cell>
      <Cell>{row.sex === "u" ? "" : row.sex}</Cell>
      <Cell>{row.release}</Cell>
      <Cell>{[row.marked && "marked", row.deleted && "taken out", row.note].filter(Boolean).join("; ")}</Cell>
    </>
  );
}

function Cell({ right, children }: { right?: boolean; children: React.ReactNode }) {
  return (
    <div role="cell" className={`truncate px-1 ${right ? "text-right" : ""}`}>
      {children}
    </div>
  );
}

interface HeadProps {
  sort?: Sort;
  column?: "time" | "length" | "mass";
  onSort?: (sort: Sort) => void;
  right?: boolean;
  children: string;
}

function Head({ sort, column, onSort, right, children }: HeadProps) {
  const direction = sort === column ? "ascending" : sort === `-${column}` ? "descending" : "none";
  const mark = { ascending: " ↑", descending: " ↓", none: "" }[direction];
  return (
    <div
      role="columnheader"
      tabIndex={-1}
      aria-sort={column ? direction : undefined}
      className={`px-1 py-1.5 ${right ? "text-right" : ""}`}
    >
      {column && onSort ? (
        <button
          type="button"
          className="cursor-pointer underline underline-offset-4"
          onClick={() => onSort(nextSort(sort!, column))}
        >
          {children}
          {mark}
        </button>
      ) : (
        children
      )}
    </div>
  );
}

/** What of a selection the register asks for. */
function asked({ bin_mm: _b, by: _y, k: _k, spread: _s, start: _m, ...selection }: Selection) {
  return selection;
}
