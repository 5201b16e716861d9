// @vitest-environment jsdom
import { expect, it, vi } from "vitest";
import type { Scope } from "@/offline/operation";
import { emptyDeck } from "@/testing/deck";
import type { Deck } from "../scope";
import { fetchAhead } from "./fetch-ahead";

const open = (id: string, date: string, state = "open") => ({ id, date, state });

it("keeps the next open outings that this device has not opened, and touches no other", async () => {
  const kept = new Map<string, Deck>([["worked", emptyDeck()]]);
  const ports = {
    load: vi.fn(async () => emptyDeck()),
    outbox: {
      kept: async <D>({ id }: Scope) => kept.get(id) as D | undefined,
      keep: vi.fn(async () => []),
      queued: async (scope?: Scope) => (scope?.id === "unsent" ? [{} as never] : []),
    },
  };
  const later = ["f", "e", "d"].map((id, place) => open(id, `2026-12-0${5 - place}`));
  await fetchAhead(
    [...later, open("done", "2026-11-01", "closed"), open("worked", "2026-11-20"), open("unsent", "2026-11-21")],
    ports,
  );
  expect(ports.load.mock.calls).toEqual([["d"], ["e"]]); // four of the next, two of them this device's own affair
  expect(ports.outbox.keep).toHaveBeenCalledTimes(2);
});
