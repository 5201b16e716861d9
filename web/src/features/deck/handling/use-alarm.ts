import { useEffect, useRef, useState } from "react";

const KEY = "deck-muted";

/** A sound when one more fish is over its time; muted as long as this device remembers it. */
export function useAlarm(over: number): { muted: boolean; mute: (muted: boolean) => void } {
  const [muted, setMuted] = useState(() => localStorage.getItem(KEY) === "yes");
  const before = useRef(over);
  useEffect(() => {
    if (over > before.current && !muted) beep();
    before.current = over;
  }, [over, muted]);
  return {
    muted,
    mute: (quiet) => {
      localStorage.setItem(KEY, quiet ? "yes" : "no");
      setMuted(quiet);
    },
  };
}

/** Two short tones; a device that has no sound stays silent. */
function beep(): void {
  if (typeof AudioContext === "undefined") return;
  const audio = new AudioContext();
  for (const at of [0, 0.25]) {
    const tone = audio.createOscillator();
    const loudness = audio.createGain();
    tone.frequency.value = 880;
    loudness.gain.value = 0.2;
    tone.connect(loudness).connect(audio.destination);
    tone.start(audio.currentTime + at);
    tone.stop(audio.currentTime + at + 0.15);
  }
  setTimeout(() => void audio.close(), 800);
}
