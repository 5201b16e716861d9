import type { DeckStore } from "../document/deck-store";
import type { DeckOperation } from "../scope";

/** Time (s since 1970, by this device), latitude and longitude. */
export type Fix = [at: number, lat: number, lon: number];

const kind: DeckOperation<{ run: string; fixes: Fix[] }> = {
  kind: "track.add",
  apply: (deck) => deck, // lines are drawn by the server: a tablet only tells where it was
  describe: ({ row }) => `${row.fixes.length} positions of a run`,
  subject: ({ id }) => id,
};
export default kind;

export function addTrack(store: DeckStore, run: string, fixes: Fix[]): Promise<void> {
  return store.add({ kind: kind.kind, row: { run, fixes } });
}
