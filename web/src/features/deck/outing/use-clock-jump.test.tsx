import { act } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { show } from "@/testing/screen";
import { useClockJump } from "./use-clock-jump";

const Told = () => {
  const [minutes, isRight] = useClockJump();
  return (
    <button type="button" onClick={isRight}>
      {minutes}
    </button>
  );
};

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

it("says by how much a clock was set, and is silent while it only ticks", () => {
  const page = show(<Told />);
  act(() => vi.advanceTimersByTime(120_000));
  expect(page.textContent).toBe("0");
  const jump = (ms: number) =>
    act(() => {
      vi.setSystemTime(Date.now() + ms);
      vi.advanceTimersByTime(1000);
    });
  jump(-3_600_000);
  expect(page.textContent).toBe("-60");
  jump(3_600_000);
  expect(page.textContent).toBe("0");
  jump(600_000);
  expect(page.textContent).toBe("10");
  act(() => page.querySelector("button")!.click());
  expect(page.textContent).toBe("0");
});
