import { useEffect } from "react";

/** Whether a key is meant for a field, a sheet or the browser. A box that is ticked is no field. */
function isForOthers({ target, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean {
  const field = "input:not([type=checkbox]), select, textarea, [role=dialog]";
  return ctrlKey || metaKey || altKey || (target instanceof Element && target.closest(field) !== null);
}

/** What keys do, by their names in small letters, where nothing is being typed. */
export function useReportKeys(keys: Record<string, () => unknown>): void {
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
