import { v7 as uuidv7 } from "uuid";
import type { CardSheet, FiledCard } from "./queries";

/** One line of the table: a card as texts. */
export interface Line {
  id: string;
  cells: Record<string, string>;
}

export interface CardColumn {
  key: string;
  title: string;
  /** Width of its cell, in characters. */
  wide: number;
  hint?: string;
}

/** Columns in the order of a card. The first ones are always in sight, the others once one of them holds something. */
export const COLUMNS: readonly CardColumn[] = [
  { key: "tagger", title: "Tagger", wide: 9, hint: "name or number" },
  { key: "number_text", title: "Tag number", wide: 9 },
  { key: "species", title: "Species", wide: 9, hint: "name or code" },
  { key: "length", title: "Length", wide: 7 },
  { key: "length_basis", title: "Measured or estimated", wide: 7, hint: "m or e" },
  { key: "date", title: "Date", wide: 9 },
  { key: "block", title: "Time of day", wide: 8, hint: "06:40 or dawn" },
  { key: "place_text", title: "Place", wide: 15 },
  { key: "condition", title: "Condition", wide: 5, hint: "1 to 4" },
  { key: "remarks", title: "Remarks", wide: 12 },
];
export const MORE_COLUMNS: readonly CardColumn[] = [
  { key: "lat", title: "Latitude (degrees)", wide: 9 },
  { key: "lon", title: "Longitude (degrees)", wide: 9 },
  { key: "error_m", title: "Position error (m)", wide: 7 },
  { key: "hook_kind", title: "Hook", wide: 8 },
  { key: "hook_site", title: "Hooked in", wide: 8 },
  { key: "line_kg", title: "Line strength (kg)", wide: 7 },
  { key: "air_s", title: "Out of the water (s)", wide: 7 },
];

export const emptyLine = (): Line => ({ id: uuidv7(), cells: {} });
export const isEmpty = ({ cells }: Line) => Object.values(cells).every((text) => !text.trim());

/** The lines with always one empty at the end, to type into. */
export function withRoom(lines: Line[]): Line[] {
  const last = lines.at(-1);
  return last && isEmpty(last) ? lines : [...lines, emptyLine()];
}

/** A cell typed. */
export function typed(lines: Line[], place: number, key: string, text: string): Line[] {
  return withRoom(lines.map((line, at) => (at === place ? { ...line, cells: { ...line.cells, [key]: text } } : line)));
}

/** A block of a spreadsheet pasted: it fills cells to the right and downward from where the cursor stands. */
export function pasted(
  lines: Line[],
  place: number,
  key: string,
  text: string,
  columns: readonly CardColumn[],
): Line[] {
  const rows = text.replace(/\r?\n$/, "").split(/\r?\n/);
  const first = columns.findIndex((column) => column.key === key);
  const filled = [...lines];
  rows.forEach((row, down) => {
    const line = filled[place + down] ?? emptyLine();
    const cells = { ...line.cells };
    row.split("\t").forEach((cell, right) => {
      const column = columns[first + right];
      if (column) cells[column.key] = cell.trim();
    });
    filled[place + down] = { ...line, cells };
  });
  return withRoom(filled);
}

/** The lines of a file after those that are there; a line that is there already is not added twice. */
export function withFile(lines: Line[], sheet: Pick<CardSheet, "rows">): Line[] {
  const there = new Set(lines.map(({ id }) => id));
  const fresh = sheet.rows.filter(({ id }) => !there.has(id)).map(({ id, cells }) => ({ id, cells }));
  return withRoom([...lines.filter((line) => !isEmpty(line)), ...fresh]);
}

/** Whether a date among them may be read two ways, so that somebody has to say which. */
export function slashed(lines: Line[]): boolean {
  return lines.some(({ cells }) => /^\d{1,2}[./-]\d{1,2}[./-]\d{2,4}$/.test(cells.date?.trim() ?? ""));
}

/** What was answered to each line, and of which cells: an answer is none once the line was changed. */
export type Checked = ReadonlyMap<string, { answer: FiledCard; cells: Line["cells"] }>;

export function withAnswers(sent: readonly Line[], answers: readonly FiledCard[]): Checked {
  const cells = new Map(sent.map((line) => [line.id, line.cells]));
  return new Map(answers.map((answer) => [answer.id, { answer, cells: cells.get(answer.id) ?? {} }]));
}

export function answerTo(checked: Checked, { id, cells }: Line): FiledCard | undefined {
  const there = checked.get(id);
  return there?.cells === cells ? there.answer : undefined;
}

/** How many of the answers are in each state. */
export function counted(filed: readonly FiledCard[]): Record<FiledCard["state"], number> {
  const n = { ready: 0, stored: 0, there: 0, refused: 0 };
  for (const { state } of filed) n[state]++;
  return n;
}

const KEY = "paper-cards:";

/** What was typed and is not stored yet: it stays on this device until it is. */
export function keepDraft(programme: string, lines: Line[]): void {
  const filled = lines.filter((line) => !isEmpty(line));
  if (filled.length) localStorage.setItem(KEY + programme, JSON.stringify(filled));
  else localStorage.removeItem(KEY + programme);
}

export function keptDraft(programme: string): Line[] {
  try {
    return withRoom(JSON.parse(localStorage.getItem(KEY + programme) ?? "[]") as Line[]);
  } catch {
    return withRoom([]); // a draft that cannot be read any more is none
  }
}
