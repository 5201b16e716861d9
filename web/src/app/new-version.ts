import { useSyncExternalStore } from "react";

/** So often a tablet that is never closed asks for a new version, ms. */
const ASK_EVERY_MS = 3_600_000;
/** Held by every open tab of this device. */
const OPEN = "nailwright-open";

/** As much of the browser as is used here. */
export interface Browser {
  serviceWorker: Pick<ServiceWorkerContainer, "register" | "controller" | "addEventListener"> | undefined;
  locks: Pick<LockManager, "request"> | undefined;
  reload: () => void;
}

/**
 * A new version of the application, fetched whole, waits until somebody takes it, or the application is opened anew in no other
 * tab. It never takes the place of one that is being worked with: its parts that were not opened yet would be gone with it.
 */
export class NewVersion {
  private registration: ServiceWorkerRegistration | undefined;
  private listeners = new Set<() => void>();
  /** Whether one waits. */
  ready = false;

  constructor(private readonly browser: Browser) {}

  /** At the very start, before anything is typed. */
  async watch(): Promise<void> {
    const { serviceWorker, reload } = this.browser;
    if (!serviceWorker) return;
    const alone = await this.onlyTab();
    const registration = await serviceWorker.register("/sw.js");
    this.registration = registration;
    if (serviceWorker.controller) serviceWorker.addEventListener("controllerchange", reload, { once: true });
    if (registration.waiting && serviceWorker.controller && alone) return this.take();
    this.look();
    registration.addEventListener("updatefound", () => {
      const coming = registration.installing;
      coming?.addEventListener("statechange", () => this.look());
    });
    // no signal: it is asked again after a while
    setInterval(() => void registration.update().catch(() => undefined), ASK_EVERY_MS);
  }

  /** Loads the version that waits; what was kept is on the disk. Every tab of this device is loaded anew. */
  take = (): void => {
    this.registration?.waiting?.postMessage({ type: "SKIP_WAITING" });
  };

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private look(): void {
    // the first one that this device ever had is no new one
    const ready = Boolean(this.registration?.waiting && this.browser.serviceWorker?.controller);
    if (ready === this.ready) return;
    this.ready = ready;
    for (const listener of this.listeners) listener();
  }

  /** Whether no other tab is open; from then on the others know of this one. */
  private async onlyTab(): Promise<boolean> {
    const { locks } = this.browser;
    if (!locks) return false;
    const alone = await locks.request(OPEN, { ifAvailable: true }, async (lock) => lock !== null);
    void locks.request(OPEN, { mode: "shared" }, () => new Promise(() => undefined));
    return alone;
  }
}

export const newVersion = new NewVersion({
  serviceWorker: navigator.serviceWorker,
  locks: navigator.locks,
  reload: () => location.reload(),
});

/** Whether a new version waits. */
export const useNewVersion = () => useSyncExternalStore(newVersion.subscribe, () => newVersion.ready);
