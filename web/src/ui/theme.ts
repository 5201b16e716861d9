import { useSyncExternalStore } from "react";

export const THEMES = ["day", "glare", "night"] as const;
export type Theme = (typeof THEMES)[number];

const listeners = new Set<() => void>();

export function setTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
  localStorage.setItem("theme", theme);
  for (const listener of listeners) listener();
}

/** The theme in force; charts draw themselves again when it changes. */
export function useTheme(): Theme {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => document.documentElement.dataset.theme as Theme,
  );
}
