import { recall, remember } from "./database";

/** A difference below this is the way through the air, not the clock. */
const TOLERANCE_S = 2;
/** From here on a person is asked: such a jump is a clock that was set, here or there, and times hang on which was right. */
export const FAR_S = 60;
/** An answer that took longer says too little of when the server's clock was read. */
const LONGEST_ROUND_TRIP_S = 10;
/** Beyond this neither clock is one (the server takes no more either, `receiving.py`). */
const FARTHEST_S = 100 * 365 * 86_400;
/** As many of the newest comparisons are held; that with the shortest way counts, as in the clock filter of RFC 5905, 10. */
const COMPARISONS = 5;

interface Comparison {
  behindS: number;
  roundTripS: number;
}

export interface ClockState {
  /** Seconds that the device is behind; undefined where it was never compared. */
  behindS: number | undefined;
  /** A jump that nobody has decided yet, in the same seconds. */
  asked: number | null;
}

/**
 * How far this device's clock is behind the server's. They are compared when the server, and nobody else, answers somebody who is
 * signed in; entries carry the offset that was known when they were made, so that they stand in the right order whatever the
 * clock says. Small changes are taken by themselves, a jump when a person says so.
 */
class Clock {
  private state: ClockState = { behindS: undefined, asked: null };
  private newest: Comparison[] = [];
  /** A jump that was not taken: it is not asked for again. */
  private declined: number | undefined;
  private listeners = new Set<() => void>();
  /** What the newest comparison said, whether it was taken or not; 0 where there was none. */
  measured = 0;

  constructor() {
    void recall<number>("clock-behind-s").then((kept) => {
      if (this.state.behindS === undefined && kept !== undefined) this.set({ behindS: kept });
    });
  }

  get offset(): number | undefined {
    return this.state.behindS;
  }

  get now(): ClockState {
    return this.state;
  }

  /** The server's time as its answer tells it, and when it was asked for (ms of this device's clock). */
  compare(serverTime: string | undefined, began: number, ended = Date.now()): void {
    const server = Date.parse(serverTime ?? "");
    const roundTripS = (ended - began) / 1000;
    const behindS = (server - (began + ended) / 2) / 1000;
    if (!(Math.abs(behindS) < FARTHEST_S) || !(roundTripS >= 0 && roundTripS <= LONGEST_ROUND_TRIP_S)) return;
    // a clock that was set makes all comparisons before it worthless
    this.newest = this.newest.filter((each) => Math.abs(each.behindS - behindS) < FAR_S);
    this.newest = [...this.newest, { behindS, roundTripS }].slice(-COMPARISONS);
    const best = this.newest.reduce((a, b) => (b.roundTripS <= a.roundTripS ? b : a)).behindS;
    const settled = Math.abs(best) < TOLERANCE_S ? 0 : Math.round(best * 10) / 10;
    this.measured = settled;
    const known = this.state.behindS ?? 0;
    if (Math.abs(settled - known) >= FAR_S) {
      if (this.declined !== undefined && Math.abs(settled - this.declined) < FAR_S) return;
      if (this.state.asked === null || Math.abs(this.state.asked - settled) >= TOLERANCE_S)
        this.set({ asked: settled });
      return;
    }
    this.declined = undefined;
    if (this.state.asked !== null) this.set({ asked: null });
    // small differences do not move what is known, so that entries keep their order
    if (this.state.behindS === undefined || Math.abs(settled - known) >= TOLERANCE_S) this.keep(settled);
  }

  /** A person's word on a jump: entries from now on go by the server's clock, or by this device's as before. */
  decide(take: boolean): void {
    const { asked, behindS } = this.state;
    if (asked === null) return;
    this.declined = take ? undefined : asked;
    this.keep(take ? asked : (behindS ?? 0));
    this.set({ asked: null });
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private keep(behindS: number): void {
    this.set({ behindS });
    void remember("clock-behind-s", behindS);
  }

  private set(change: Partial<ClockState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}

export const clock = new Clock();

/** The clock's error in words, where it is far out. */
export function clockTrouble(behindS: number | undefined): string | null {
  if (behindS === undefined || Math.abs(behindS) < FAR_S) return null;
  return `This device's clock is ${spanOf(behindS)}. Times are corrected as entries are sent; set the clock when you can.`;
}

/** A difference in words, such as "2 hours behind". */
export function spanOf(behindS: number): string {
  const minutes = Math.round(Math.abs(behindS) / 60);
  const days = minutes / 1440;
  const span =
    days >= 730
      ? `${Math.round(days / 365.25)} years`
      : days >= 2
        ? `${Math.round(days)} days`
        : minutes >= 120
          ? `${Math.round(minutes / 60)} hours`
          : `${minutes} min`;
  return `${span} ${behindS > 0 ? "behind" : "ahead"}`;
}
