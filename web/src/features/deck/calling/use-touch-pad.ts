import { useState } from "react";

const KEY = "touch-pad";

/** Whether the touch pad is shown: where there is no keyboard, or where it was asked for; this device remembers. */
export function useTouchPad(): [shown: boolean, turn: () => void] {
  const [shown, setShown] = useState(() => {
    const asked = localStorage.getItem(KEY);
    return asked === null ? matchMedia("(pointer: coarse)").matches : asked === "shown";
  });
  const turn = () => {
    localStorage.setItem(KEY, shown ? "hidden" : "shown");
    setShown(!shown);
  };
  return [shown, turn];
}
