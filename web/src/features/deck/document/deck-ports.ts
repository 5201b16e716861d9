import { clock } from "@/offline/clock";
import type { DocumentPorts } from "@/offline/document-store";
import { outbox } from "@/offline/outbox";
import { sender } from "@/offline/sender";
import { tabs } from "@/offline/tabs";
import { type Caller, lastCaller, rememberCaller } from "../calling/callers";
import { type Deck, scope } from "../scope";

/** Everything outside that an outing on this tablet touches. */
export interface DeckPorts extends DocumentPorts<Deck> {
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
  channel: tabs,
  caller: { last: lastCaller, remember: rememberCaller },
  load: scope.load,
};
