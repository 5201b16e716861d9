import type { Answers } from "./queries";

/** Says what a column is; a kind that another column had goes to this one. */
export function setKind(answers: Answers, place: number, key: string, units: readonly string[]): Answers {
  return {
    ...answers,
    columns: answers.columns.map((column, at) => {
      if (at === place) {
        const unit = column.unit && units.includes(column.unit) ? column.unit : null;
        return { ...column, key: key as typeof column.key, unit };
      }
      return key && column.key === key ? { ...column, key: "" as typeof column.key, unit: null } : column;
    }),
  };
}

export function setUnit(answers: Answers, place: number, unit: string): Answers {
  return {
    ...answers,
    columns: answers.columns.map((column, at) => (at === place ? { ...column, unit: unit || null } : column)),
  };
}

export function setFixed(answers: Answers, key: string, value: string): Answers {
  return { ...answers, fixed: { ...answers.fixed, [key]: value } };
}

/** What a word of the file means. */
export function setWord(answers: Answers, key: string, word: string, meaning: string): Answers {
  const words = answers.words ?? {};
  return { ...answers, words: { ...words, [key]: { ...words[key], [word.toLowerCase()]: meaning } } };
}

/** What every fish needs and no column brings; it is then the same for the whole file. */
export function missing(answers: Answers): string[] {
  const keys = new Set<string>(answers.columns.map(({ key }) => key));
  return ["species", "date", "water", "site", "gear"].filter(
    (key) => !keys.has(key) && !(key === "date" && keys.has("device_time_utc")),
  );
}

/** Further cells that mean that there is no value. */
export function setMissing(answers: Answers, cells: readonly string[]): Answers {
  const plain = cells.map((cell) => cell.trim().toLowerCase()).filter(Boolean);
  return { ...answers, missing: [...new Set(plain)] };
}

/** The answers that a saved mapping gives for a file: its columns by their headings, all else as it was saved. */
export function withMapping(answers: Answers, saved: Answers): Answers {
  const known = new Map(saved.columns.map((column) => [column.header, column]));
  const columns = answers.columns.map((column) => known.get(column.header) ?? column);
  return { ...answers, ...saved, columns };
}
