import { base64Of } from "@/ui/pictures/picture";
import type { Operation } from "./operation";

/** An entry with its files as base64, as they go over the wire or into a file. On this device they lie as files: a queue of
 * many photos is then read at no cost. */
export async function asText<Entry extends Pick<Operation, "row">>(entry: Entry): Promise<Entry> {
  const row = await Promise.all(
    Object.entries(entry.row).map(async ([name, value]) => [
      name,
      value instanceof Blob ? await base64Of(value) : value,
    ]),
  );
  return { ...entry, row: Object.fromEntries(row) };
}
