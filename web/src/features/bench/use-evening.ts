import { useEffect, useRef, useState } from "react";
import type { Step } from "./evening";

/** Tells the stand-ins what to do; `problem` says why they did not. Without an address nothing is told. */
export function useStandins(address: string): {
  tell: (deed: Record<string, unknown>) => Promise<void>;
  problem: string;
} {
  const [problem, setProblem] = useState("");
  const tell = async (deed: Record<string, unknown>) => {
    if (!address) return;
    try {
      const answered = await fetch(address, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify(deed),
        signal: AbortSignal.timeout(15_000),
      });
      const said = (await answered.json()) as { message?: string; error?: string };
      setProblem(answered.ok ? "" : `! ${said.error ?? said.message}`);
    } catch {
      setProblem("! The gateway is not reached.");
    }
  };
  return { tell, problem };
}

/** Plays an evening, a step every so many seconds: what is called now, and how many steps were. */
export function useEvening(evening: readonly Step[], tell: (deed: Record<string, unknown>) => Promise<void>) {
  const [steps, setSteps] = useState(0);
  const [playing, setPlaying] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const step = (place: number, seconds: number) => {
    setSteps(place + 1);
    for (const deed of evening[place % evening.length]!.deeds) void tell(deed);
    timer.current = setTimeout(() => step(place + 1, seconds), 1000 * Math.max(1, seconds));
  };
  return {
    called: playing ? evening[(steps - 1) % evening.length]!.called : "",
    steps,
    play: (seconds: number) => {
      setPlaying(true);
      step(0, seconds);
    },
    stop: () => {
      clearTimeout(timer.current);
      setPlaying(false);
    },
  };
}
