import { useEffect, useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { recall, remember } from "@/offline/database";
import { editRun } from "./deck-actions";
import type { DeckStore } from "./deck-store";

/**
 * The pedal clock: current-on seconds of the run that is going.
 *
 * The moment the pedal went down is kept in the browser's database, so that a closed tablet loses no seconds.
 */
export function usePedal(store: DeckStore, run: Schemas["Run"] | undefined) {
  const [downSince, setDownSince] = useState<number | null>(null);
  const runId = run?.id;

  useEffect(() => {
    setDownSince(null);
    if (runId) void recall<number | null>(`pedal-${runId}`).then((since) => setDownSince(since ?? null));
  }, [runId]);

  return useMemo(() => {
    const set = (since: number | null) => {
      setDownSince(since);
      return remember(`pedal-${runId}`, since);
    };
    const lift = async () => {
      if (!run || downSince === null) return;
      const seconds = Math.round(((run.current_on_s ?? 0) + (Date.now() - downSince) / 1000) * 10) / 10;
      await Promise.all([set(null), editRun(store, run, { current_on_s: seconds })]);
    };
    return {
      downSince,
      lift,
      toggle: () => void (!run ? undefined : downSince === null ? set(Date.now()) : lift()),
    };
  }, [store, run, runId, downSince]);
}

export type Pedal = ReturnType<typeof usePedal>;
