import type { Schemas } from "@/api/schemas";
import type { FigureCode } from "@/ui/words/gears";
import type { Row } from "./protocol";

type Run = Pick<Schemas["Run"], "gear"> & Partial<Pick<Schemas["Run"], FigureCode>>;

/** Figures that the protocol wants of a run as it ends and nobody has given (core's `gears.asked_at_end`; tests/shared/run-end.json). */
export function askedAtEnd(rows: readonly Row[], run: Run): FigureCode[] {
  const wanted = rows.filter(({ gear }) => !gear || gear === run.gear).map(({ figure }) => figure as FigureCode);
  return [...new Set(wanted)].filter((name) => run[name] == null);
}
