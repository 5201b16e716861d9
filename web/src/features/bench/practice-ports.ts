import type { Deck } from "@/features/deck";
import { type DeckPorts, realPorts } from "@/features/deck";
import { gearOf } from "@/ui/words/gears";

export const PRACTICE = "00000000-0000-7000-8000-00000000face";

/** Everything that a practice Deck touches: nothing is written to this device, nothing is sent, no other tab hears of it. */
export function practicePorts(deck: Deck): DeckPorts {
  return {
    outbox: {
      queued: async () => [],
      watch: (_, told) => {
        told([]);
        return () => undefined;
      },
      add: async () => undefined,
      change: async () => undefined,
      giveUp: async () => ({ gone: [], takeBack: async () => undefined }),
      kept: async () => undefined,
      keep: async (_, make) => {
        make([]); // what was done here is in what it gives
        return [];
      },
    },
    sender: { wake: () => undefined, subscribe: () => () => undefined, signal: "sent" },
    clock: realPorts.clock,
    channel: { tell: () => undefined, listen: () => () => undefined },
    caller: { last: async () => null, remember: async () => undefined },
    load: async () => deck,
  };
}

/** An outing like a real one, its protocol, species and tags, with nothing in it yet but a run that goes. */
export function practiceDeck(deck: Deck, now = new Date()): Deck {
  const site = deck.sites[0];
  const run: Deck["runs"][number] = {
    ...NO_FIGURES,
    id: `${PRACTICE.slice(0, -4)}0001`,
    outing: PRACTICE,
    site: site?.id ?? PRACTICE,
    gear: deck.outing.gear,
    started_at: now.toISOString(),
    effort: { value: null, unit: gearOf(deck.outing.gear).effort },
  };
  return {
    ...deck,
    outing: { ...deck.outing, id: PRACTICE, name: "Practice", state: "open" },
    captures: [],
    events: [],
    photos: [],
    water_readings: [],
    targets: [],
    allowances: [],
    checklists: [],
    handovers: [],
    crew: [],
    runs: site ? [run] : [],
  };
}

const NO_FIGURES = {
  number: 1,
  volts: null,
  amps: null,
  pulse_hz: null,
  pulse_width_ms: null,
  current_on_s: 0,
  distance_m: null,
  rods: null,
  nets: null,
  mesh_mm: null,
  hauls: null,
  direction: "",
  ended_at: null,
} as const;
