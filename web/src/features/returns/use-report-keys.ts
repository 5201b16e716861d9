import { useEffect } from "react";

/** Up and down through the list by the arrow keys, where nothing is being typed. */
export function useReportKeys(keys: string[], shown: string | undefined, onShow: (key: string) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof Element && event.target.closest("input, select, textarea, [role=dialog]");
      const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
      if (!step || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const next = keys[keys.indexOf(shown ?? "") + step];
      if (!next) return;
      event.preventDefault();
      onShow(next);
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [keys, shown, onShow]);
}
