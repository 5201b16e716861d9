// @vitest-environment jsdom
import { expect, it, vi } from "vitest";
import { NewVersion } from "./new-version";

/** A browser with a version at work (or none yet), one that waits (or not), and so many other tabs. */
function browserWith({ atWork = true, waits = false, otherTabs = 0 }) {
  const worker = { postMessage: vi.fn(), addEventListener: vi.fn() };
  const registration = Object.assign(new EventTarget(), {
    waiting: (waits ? worker : null) as typeof worker | null,
    installing: null as EventTarget | null,
    update: async () => undefined,
  });
  const container = Object.assign(new EventTarget(), {
    controller: atWork ? {} : null,
    register: async () => registration,
  });
  const reload = vi.fn();
  const request = async (_: string, options: LockOptions, work: (lock: unknown) => Promise<unknown>) =>
    work(options.ifAvailable && otherTabs ? null : {});
  const version = new NewVersion({ serviceWorker: container, locks: { request }, reload } as never);
  const arrive = () => {
    const installing = new EventTarget();
    registration.installing = installing;
    registration.dispatchEvent(new Event("updatefound"));
    registration.waiting = worker;
    installing.dispatchEvent(new Event("statechange"));
  };
  return { version, worker, container, reload, arrive };
}
const TAKE = { type: "SKIP_WAITING" };

it("takes one that waits when the application is opened in no other tab", async () => {
  const { version, worker, container, reload } = browserWith({ waits: true });
  await version.watch();
  expect(worker.postMessage).toHaveBeenCalledWith(TAKE);
  container.dispatchEvent(new Event("controllerchange"));
  expect(reload).toHaveBeenCalledOnce();
});

it("waits where another tab is open, or one comes while there is work, until somebody takes it", async () => {
  const beside = browserWith({ waits: true, otherTabs: 1 });
  await beside.version.watch();
  expect(beside.worker.postMessage).not.toHaveBeenCalled();
  expect(beside.version.ready).toBe(true);

  const { version, worker, arrive } = browserWith({});
  await version.watch();
  const told = vi.fn();
  version.subscribe(told);
  expect(version.ready).toBe(false);
  arrive();
  expect(version.ready).toBe(true);
  expect(told).toHaveBeenCalledOnce();
  expect(worker.postMessage).not.toHaveBeenCalled();
  version.take();
  expect(worker.postMessage).toHaveBeenCalledWith(TAKE);
});

it("the first version of a device is no new one, and reloads nothing", async () => {
  const { version, container, reload, arrive } = browserWith({ atWork: false });
  await version.watch();
  arrive();
  expect(version.ready).toBe(false);
  container.dispatchEvent(new Event("controllerchange"));
  expect(reload).not.toHaveBeenCalled();
});
