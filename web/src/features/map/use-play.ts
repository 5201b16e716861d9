import { useEffect, useState } from "react";

/** From the first day to the last in so many seconds. */
const WHOLE_S = 20;
/** Who wants no motion sees so many steps instead, a second each. */
const STEPS = 24;

/** A time between two that can be set, and plays from where it is to the end. */
export function usePlay(first: number, last: number) {
  const [time, setTime] = useState(last);
  const [playing, setPlaying] = useState(false);
  useEffect(() => {
    if (!playing) return;
    const calm = matchMedia("(prefers-reduced-motion: reduce)").matches;
    const go = (by: number) =>
      setTime((now) => {
        const next = Math.min(last, now + by);
        if (next === last) setPlaying(false);
        return next;
      });
    if (calm) {
      const timer = setInterval(() => go((last - first) / STEPS), 1000);
      return () => clearInterval(timer);
    }
    let before = performance.now();
    let frame = requestAnimationFrame(function step(now) {
      go(((last - first) * (now - before)) / (WHOLE_S * 1000));
      before = now;
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, first, last]);
  return {
    time,
    playing,
    set: (to: number) => {
      setPlaying(false);
      setTime(to);
    },
    toggle: () => {
      if (!playing && time >= last) setTime(first);
      setPlaying(!playing);
    },
  };
}
