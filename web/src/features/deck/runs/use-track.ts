import { useEffect, useState } from "react";
import type { DeckStore } from "../document/deck-store";
import { addTrack, type Fix } from "../operations/track-add";
import { whereNow } from "./position";

const EVERY_MS = 2000;
/** So many positions are kept at once: a tablet that dies loses a minute of them at most. */
const PART = 30;
/** A position that may be farther off than this is none, m. */
const ROUGH_M = 40;
const KEY = "nailwright-track";

export interface Tracking {
  on: boolean;
  set: (on: boolean) => void;
  /** Why there is no position, in words; empty where there is one. */
  problem: string;
}

/** Tells where this tablet, or the GPS on a cable, goes while a run goes: switched on once, it stays on for runs to come. */
export function useTrack(store: DeckStore, run: string): Tracking {
  const [on, setOn] = useState(() => localStorage.getItem(KEY) === "on");
  const [problem, setProblem] = useState("");
  useEffect(() => {
    if (!on) return;
    let part: Fix[] = [];
    let asking = false;
    const keep = () => {
      if (part.length) void addTrack(store, run, part).catch(() => undefined); // said by the deck, which could not keep it
      part = [];
    };
    const look = async () => {
      if (asking) return; // a receiver that takes long is not asked twice
      asking = true;
      try {
        const { lat, lon, within_m } = await whereNow(EVERY_MS * 2);
        setProblem(within_m > ROUGH_M ? `only to within ${within_m} m` : "");
        if (within_m <= ROUGH_M) part.push([Date.now() / 1000, lat, lon]);
        if (part.length >= PART) keep();
      } catch (failure) {
        setProblem((failure as Error).message);
      } finally {
        asking = false;
      }
    };
    void look();
    const timer = setInterval(look, EVERY_MS);
    return () => {
      clearInterval(timer);
      keep();
    };
  }, [on, store, run]);
  return {
    on,
    set: (next) => {
      localStorage.setItem(KEY, next ? "on" : "off");
      setProblem("");
      setOn(next);
    },
    problem,
  };
}
