export interface TagsSearch {
  /** Of a tag that is looked for, whole or part. */
  number?: string;
}

/** Takes from an address what concerns tags and leaves the rest. A number may stand there as one. */
export function readTagsSearch({ number }: Record<string, unknown>): TagsSearch {
  const text = typeof number === "number" ? String(number) : number;
  return typeof text === "string" && text.trim() ? { number: text.trim().slice(0, 40) } : {};
}
