import { useEffect, useState } from "react";

/** Seconds since a moment, while it runs; null where it does not. */
export function useSecondsSince(start: number | null): number | null {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    if (start === null) return;
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [start]);
  return start === null ? null : Math.max(0, Math.floor((now - start) / 1000));
}
