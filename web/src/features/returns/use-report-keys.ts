import { useEffect } from "react";

/** Whether a key is meant for a field, a sheet or the browser. A box that is ticked is no field. */
function isForOthers({ target, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean {
  const field = "input:not([type=checkbox]), select, textarea, [role=dialog]";
  return ctrlKey || metaKey || altKey || (target instanceof Element && target.closest(field) !== null);
}

/** One letter for each thing that can be done with the report that is shown. */
export function useLetterKeys(keys: Record<string, () => unknown>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const act = keys[event.key.toLowerCase()];
      if (!act || isForOthers(event)) return;
      event.preventDefault();
      act();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });
}

/** Up and down through the list by the arrow keys, where nothing is being typed. */
export function useReportKeys(keys: string[], shown: string | undefined, onShow: (key: string) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
      if (!step || isForOthers(event)) return;
      const next = keys[keys.indexOf(shown ?? "") + step];
      if (!next) return;
      event.preventDefault();
      onShow(next);
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [keys, shown, onShow]);
}
