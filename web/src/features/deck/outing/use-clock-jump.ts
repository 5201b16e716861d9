import { useEffect, useState } from "react";

const LOOK_EVERY_MS = 1000;
/** Less is a busy tablet, not a clock that was set. */
const LEAST_MS = 60_000;

/**
 * By how many minutes the device's clock has jumped, ahead of its own ticking or behind it, since this was opened or somebody
 * said that it is right; 0: it has not.
 */
export function useClockJump(): [minutes: number, isRight: () => void] {
  const [minutes, setMinutes] = useState(0);
  useEffect(() => {
    let apart = Date.now() - performance.now();
    const timer = setInterval(() => {
      const now = Date.now() - performance.now();
      const jump = now - apart;
      apart = now;
      if (Math.abs(jump) >= LEAST_MS) setMinutes((before) => before + Math.round(jump / 60_000));
    }, LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return [minutes, () => setMinutes(0)];
}
