import { useEffect, useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { recall, remember } from "@/offline/database";
import type { DeckStore } from "../document/deck-store";
import { editRun } from "../operations/run-edit";

/**
 * The pedal clock: current-on seconds of the run that is going.
 *
 * The moment the pedal went down is kept in the browser's database, so that a closed tablet loses no seconds.
 */
export function usePedal(store: DeckStore, run: Schemas["Run"] | undefined) {
  // undefined until it is known what the browser kept: a press before that would begin a second count
  const [downSince, setDownSince] = useState<number | null>();
  const runId = run?.id;

  useEffect(() => {
    setDownSince(undefined);
    if (runId) void recall<number | null>(`pedal-${runId}`).then((since) => setDownSince(since ?? null));
  }, [runId]);

  return useMemo(() => {
    const set = (since: number | null) => {
      setDownSince(since);
      return remember(`pedal-${runId}`, since);
    };
    const liftAfter = async (since: number) => {
      const seconds = Math.round(((run?.current_on_s ?? 0) + (Date.now() - since) / 1000) * 10) / 10;
      if (run) await Promise.all([set(null), editRun(store, run, { current_on_s: seconds })]);
    };
    const toggle = async () => {
      if (!run) return;
      const since = downSince === undefined ? await recall<number | null>(`pedal-${runId}`) : downSince;
      await (since == null ? set(Date.now()) : liftAfter(since));
    };
    return {
      downSince: downSince ?? null,
      lift: async () => {
        if (downSince != null) await liftAfter(downSince);
      },
      toggle: (): void => void toggle(),
    };
  }, [store, run, runId, downSince]);
}

export type Pedal = ReturnType<typeof usePedal>;
