import { act } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, expect, it, vi } from "vitest";
import type { Operation } from "./operation";
import { outbox } from "./outbox";
import { useQueued } from "./use-queued";

Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });
afterEach(() => void vi.restoreAllMocks());

it("reads the queue once for all who show it, and no more once nobody does", async () => {
  let tell = (_: Operation[]) => {};
  const stop = vi.fn();
  const watch = vi.spyOn(outbox, "watch").mockImplementation((_, told) => {
    tell = told;
    return stop;
  });
  const Shown = () => <b>{useQueued().length}</b>;
  const place = document.createElement("div");
  const root = createRoot(place);
  await act(async () =>
    root.render(
      <>
        <Shown />
        <Shown />
      </>,
    ),
  );
  expect(watch).toHaveBeenCalledOnce();
  await act(async () => tell([{}, {}] as Operation[]));
  expect(place.textContent).toBe("22");
  await act(async () => root.unmount());
  expect(stop).toHaveBeenCalledOnce();
});
