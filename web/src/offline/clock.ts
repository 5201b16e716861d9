import { recall, remember } from "./database";

/** A difference below this is the way through the air, not the clock. */
const TOLERANCE_S = 2;
/** From here on a person should set the clock right. */
export const FAR_S = 60;

/**
 * How far this device's clock is behind the server's. They are compared at each contact; entries carry the offset that was
 * known when they were made, so that they stand in the right order whatever the clock says.
 */
class Clock {
  private behindS: number | undefined;
  private listeners = new Set<() => void>();

  constructor() {
    void recall<number>("clock-behind-s").then((kept) => {
      if (this.behindS === undefined && kept !== undefined) this.set(kept);
    });
  }

  /** Seconds that the device is behind; undefined where it was never compared. */
  get offset(): number | undefined {
    return this.behindS;
  }

  /** The server told its time, in ms; small differences do not move what is known, so that entries keep their order. */
  compare(serverMs: number, deviceMs = Date.now()): void {
    if (!Number.isFinite(serverMs)) return;
    const behind = (serverMs - deviceMs) / 1000;
    const now = this.behindS ?? 0;
    if (this.behindS !== undefined && Math.abs(behind - now) < TOLERANCE_S) return;
    const settled = Math.abs(behind) < TOLERANCE_S ? 0 : Math.round(behind * 10) / 10;
    this.set(settled);
    void remember("clock-behind-s", settled);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private set(behind: number): void {
    if (behind === this.behindS) return;
    this.behindS = behind;
    for (const listener of this.listeners) listener();
  }
}

export const clock = new Clock();

/** The clock's error in words, where it is far out. */
export function clockTrouble(behindS: number | undefined): string | null {
  if (behindS === undefined || Math.abs(behindS) < FAR_S) return null;
  const minutes = Math.round(Math.abs(behindS) / 60);
  const span = minutes >= 120 ? `${Math.round(minutes / 60)} hours` : `${minutes} min`;
  return `This device's clock is ${span} ${behindS > 0 ? "behind" : "ahead"}. Times are put right as entries are sent; set the clock when you can.`;
}
