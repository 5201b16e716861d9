import { expect, it, vi } from "vitest";
import type { Deck } from "@/offline/operation";
import { fetchAhead } from "./fetch-ahead";
import { emptyDeck } from "./testing";

const open = (id: string, date: string, state = "open") => ({ id, date, state });

it("keeps the next open outings that this device has not opened, and touches no other", async () => {
  const kept = new Map<string, Deck>([["worked", emptyDeck()]]);
  const ports = {
    fetchDeck: vi.fn(async () => emptyDeck()),
    outbox: {
      keptDeck: async (id: string) => kept.get(id),
      keepDeck: vi.fn(async () => undefined),
      queued: async (id?: string) => (id === "unsent" ? [{} as never] : []),
    },
  };
  const later = ["f", "e", "d"].map((id, place) => open(id, `2026-12-0${5 - place}`));
  await fetchAhead(
    [...later, open("done", "2026-11-01", "closed"), open("worked", "2026-11-20"), open("unsent", "2026-11-21")],
    ports,
  );
  expect(ports.fetchDeck.mock.calls).toEqual([["d"], ["e"]]); // four of the next, two of them this device's own affair
  expect(ports.outbox.keepDeck).toHaveBeenCalledTimes(2);
});
