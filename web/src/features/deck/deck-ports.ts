import { answer, api } from "@/api/client";
import { clock } from "@/offline/clock";
import type { Deck, Operation } from "@/offline/operation";
import { type Outbox, outbox } from "@/offline/outbox";
import { sender } from "@/offline/sender";
import { type Caller, lastCaller, rememberCaller } from "./callers";

/** What tabs of one outing tell each other. */
export type DeckMessage = { did: Operation } | { mended: Operation } | { gone: string[] };

/** Everything outside that an outing on this tablet touches. */
export interface DeckPorts {
  outbox: Pick<Outbox, "queued" | "watch" | "add" | "change" | "giveUp" | "keptDeck" | "keepDeck">;
  sender: { wake: () => void; subscribe: (listener: () => void) => () => void; readonly signal: string };
  clock: { now: () => Date; readonly offset: number | undefined };
  /** The other tabs of this browser. */
  channel: {
    tell: (outing: string, message: DeckMessage) => void;
    listen: (outing: string, told: (message: DeckMessage) => void) => () => void;
  };
  fetchDeck: (outing: string) => Promise<Deck>;
  /** Who has taken over this tablet from its own person in an outing: kept for as long as they are signed in. */
  caller: {
    last: (outing: string, own: Caller) => Promise<Caller | null>;
    remember: (outing: string, own: Caller, caller: Caller | null) => Promise<void>;
  };
}

export const realPorts: DeckPorts = {
  outbox,
  sender,
  clock: {
    now: () => new Date(),
    get offset() {
      return clock.offset;
    },
  },
  channel: {
    tell: (outing, message) => {
      const channel = new BroadcastChannel(`nailwright-${outing}`);
      channel.postMessage(message);
      channel.close();
    },
    listen: (outing, told) => {
      const channel = new BroadcastChannel(`nailwright-${outing}`);
      channel.onmessage = ({ data }) => told(data as DeckMessage);
      return () => channel.close();
    },
  },
  caller: { last: lastCaller, remember: rememberCaller },
  fetchDeck: (outing_id) => answer(api.GET("/api/v1/outings/{outing_id}/deck", { params: { path: { outing_id } } })),
};
