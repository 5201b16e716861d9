import {
  DocumentStore,
  type DocumentView,
  type NewOperation,
  type Opened,
  openScope,
  type Who,
} from "@/offline/document-store";
import type { Operation } from "@/offline/operation";
import type { Caller } from "../calling/callers";
import { type Deck, outingScope, scope } from "../scope";
import type { DeckPorts } from "./deck-ports";

interface WithCaller {
  /** Who has taken over this tablet, where that is not whose sign-in it has. */
  caller: Caller | null;
  /** Why the record of a closed outing is being corrected; nothing where it is not. */
  correcting: string | null;
}

export type DeckView = DocumentView<Deck> & WithCaller;

/** One outing on this tablet, and who calls on it. */
export class DeckStore extends DocumentStore<Deck, WithCaller> {
  private constructor(
    outing: string,
    who: Who,
    private deckPorts: DeckPorts,
    opened: Opened<Deck>,
    caller: Caller | null,
  ) {
    super(outingScope(outing), scope, who, deckPorts, opened, { caller, correcting: null });
  }

  /** The outing as this device last knew it, at once, with the server asked beside it; from the server where it never was here. */
  static async open(outing: string, who: Who, ports: DeckPorts): Promise<DeckStore> {
    const opened = await openScope(outingScope(outing), ports);
    const last = await ports.caller.last(outing, who);
    return new DeckStore(outing, who, ports, opened, last?.id === who.id ? null : last);
  }

  /** Does something, as whoever calls on this tablet. */
  add(operation: NewOperation): Promise<void> {
    const { correcting, caller } = this.view;
    const corrected = correcting ? { desk: true as const, reason: correcting } : {};
    return this.put({ ...operation, ...corrected }, caller?.id);
  }

  /** From now on what is done corrects the record of a closed outing, for a reason; nothing ends that. */
  correct(reason: string | null): void {
    this.set({ correcting: reason });
  }

  /** Somebody else of the crew calls from now on; nobody: whose sign-in this is. */
  takeOver(caller: Caller | null): Promise<void> {
    this.set({ caller });
    return this.deckPorts.caller.remember(this.scope.id, this.who, caller);
  }

  /** The call of a fish that the server refused, where it did. */
  refusedRecord(capture: string): Operation | undefined {
    return this.view.refused.find(({ id }) => id === capture);
  }
}
