// biome-ignore-all lint/a11y/useSemanticElements: a virtual table cannot be laid out as a table element
// biome-ignore-all lint/a11y/useFocusableInteractive: rows are read, not operated; the button in each is
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import type { Selection } from "@/features/selection";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { nextSort, type Sort } from "./register-search";
import { REGISTER_PAGE, useRegisterPages } from "./use-register-pages";

/** Touched with a finger on a phone, pointed at elsewhere. */
const ROW_PX = globalThis.matchMedia?.("(max-width: 640px)").matches ? 44 : 32;
const HEAD_PX = 45;
/** No browser lays out an element taller than this; beyond it rows share pixels. */
const TALLEST_PX = 8_000_000;
/** How wide a column of the register is; one that is new takes its share. */
const WIDTHS: Record<string, string> = {
  date: "7rem",
  water: "minmax(8rem,2fr)",
  site: "4.5rem",
  run: "3rem",
  species: "4rem",
  count: "3.5rem",
  length: "6.5rem",
  length_type: "3rem",
  mass: "6rem",
  sex: "3rem",
  left_as: "5rem",
};
const SORTS: Record<string, "time" | "length" | "mass"> = { date: "time", length: "length", mass: "mass" };
const isFigure = ({ type }: Column) => type === "number" || type === "integer";

type Column = Schemas["RegisterColumn"];

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
  const pages = [...new Set(items.flatMap((_, place) => Math.floor((begin + place) / REGISTER_PAGE)))];
  const { columns, rows, failure, ready } = useRegisterPages({
    programme,
    selection,
    sort,
    deleted,
    pages,
    total: last,
    onTotal: setLast,
  });
  const grid = { gridTemplateColumns: columns.map(({ key }) => WIDTHS[key] ?? "minmax(4rem,1fr)").join(" ") };
  return (
    <>
      {failure && <ErrorMessage failure={failure} />}
      <p role="status" className="text-sm text-muted">
        {total.toLocaleString("en")} captures
        {total > 0 && `, from ${(begin + 1).toLocaleString("en")}`}
        <span className="lg:hidden">; drag the table sideways for more columns</span>
      </p>
      <div role="table" aria-label="Captures" aria-rowcount={total + 1} className="min-h-0 overflow-x-auto">
        <div ref={frame} className="h-[calc(100dvh-14rem)] overflow-y-auto" data-testid="register">
          <div
            className="sticky top-0 z-10 grid border-b border-ink bg-paper text-sm font-semibold"
            style={grid}
            role="row"
          >
            {columns.map((column) => (
              <Head key={column.key} sort={sort} column={SORTS[column.key]} onSort={onSort} right={isFigure(column)}>
                {column.heading}
              </Head>
            ))}
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
                  className={`absolute inset-x-0 grid items-center border-b border-line hover:bg-wash ${row?.deleted ? "text-muted line-through" : ""}`}
                  style={{ ...grid, height: ROW_PX, transform: `translateY(${item.start - HEAD_PX}px)` }}
                  data-row={index}
                >
                  {row ? <Cells columns={columns} row={row} onOpen={onOpen} /> : <Cell>...</Cell>}
                </div>
              );
            })}
          </div>
        </div>
      </div>
      {ready && total === 0 && <Empty>No capture in this selection. Widen it on the left.</Empty>}
    </>
  );
}

interface CellsProps {
  columns: readonly Column[];
  row: Schemas["RegisterRow"];
  onOpen: (capture: string) => void;
}

function Cells({ columns, row, onOpen }: CellsProps) {
  return columns.map((column, place) => {
    const cell = row.cells[place]!;
    return (
      <Cell key={column.key} right={isFigure(column)}>
        {place === 0 ? (
          <button
            type="button"
            className="inline-flex min-h-[24px] min-w-[44px] cursor-pointer max-sm:min-h-[44px] items-center underline decoration-line underline-offset-4 hover:decoration-ink"
            onClick={() => onOpen(row.id)}
          >
            {shown(column, cell)}
            {row.deleted && <span className="sr-only">, deleted</span>}
          </button>
        ) : (
          `${row.by_eye.includes(column.key) ? "~" : ""}${shown(column, cell)}`
        )}
      </Cell>
    );
  });
}

/** A value as the register shows it: nothing where it says nothing. */
function shown({ key, type }: Column, cell: string | number): string {
  if (type === "date") return formatDay(String(cell));
  if ((key === "count" && cell === 1) || (key === "sex" && cell === "u")) return "";
  return typeof cell === "number" ? cell.toLocaleString("en") : cell;
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
      className={`flex min-h-[44px] items-center px-1 ${right ? "justify-end" : ""}`}
    >
      {column && onSort ? (
        <button
          type="button"
          className="inline-flex min-h-[44px] min-w-[44px] cursor-pointer items-center underline underline-offset-4"
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
