import { useEffect } from "react";
import { useHere } from "@/session";
import { type DeckPorts, realPorts } from "../document/deck-ports";
import { outingScope } from "../scope";
import { fetchOutings } from "./outings";

/** So many open outings are fetched ahead, the next ones first. */
const AHEAD = 4;
/** A browser that keeps no application never says so. */
const PATIENCE_MS = 30_000;

type Ports = Pick<DeckPorts, "load"> & { outbox: Pick<DeckPorts["outbox"], "kept" | "keep" | "queued"> };

/** Decks of outings that this device has never opened are kept for work with no signal. One that it has is its own affair. */
export async function fetchAhead(outings: readonly { id: string; date: string; state: string }[], ports: Ports) {
  const next = outings.filter(({ state }) => state === "open").sort((a, b) => a.date.localeCompare(b.date));
  for (const { id } of next.slice(0, AHEAD)) {
    const scope = outingScope(id);
    if ((await ports.outbox.kept(scope)) || (await ports.outbox.queued(scope)).length) continue;
    const deck = await ports.load(id);
    // it may have been opened meanwhile
    if (!(await ports.outbox.kept(scope))) await ports.outbox.keep(scope, () => deck);
  }
}

/** Fetches the open outings ahead for whoever may work them, once a visit; without a signal at the next one. */
export function useFetchAhead(): void {
  const { membership, may } = useHere();
  const works = may("work_deck");
  useEffect(() => {
    if (!works) return;
    // when the screen that was asked for is there: nobody waits for this
    const later = setTimeout(() => {
      // after the application itself, which a tablet needs first; where it cannot be kept, an open page still opens a kept deck
      Promise.race([navigator.serviceWorker?.ready, new Promise((resolve) => setTimeout(resolve, PATIENCE_MS))])
        .then(() => fetchOutings(membership.programme))
        .then((outings) => fetchAhead(outings, realPorts))
        .catch((failure: unknown) => console.info("outings are fetched ahead another time", failure));
    }, 3000);
    return () => clearTimeout(later);
  }, [membership.programme, works]);
}
