import { Toast } from "radix-ui";
import { useSyncExternalStore } from "react";
import { Button } from "./Button";

interface Notice {
  id: number;
  text: string;
  undo?: () => void;
}

let current: Notice | null = null;
const listeners = new Set<() => void>();

/** Says what was just done, and offers to take it back. */
export function notify(text: string, undo?: () => void): void {
  set({ id: (current?.id ?? 0) + 1, text, undo });
}

function set(notice: Notice | null): void {
  current = notice;
  for (const listener of listeners) listener();
}

export function Notices() {
  const notice = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => current,
  );
  return (
    <Toast.Provider swipeDirection="right">
      {notice && (
        <Toast.Root
          key={notice.id}
          duration={8000}
          onOpenChange={(open) => !open && set(null)}
          className="flex items-center gap-3 rounded-sm border border-ink bg-raised px-3 py-2"
        >
          <Toast.Title>{notice.text}</Toast.Title>
          {notice.undo && (
            <Toast.Action asChild altText="Undo">
              <Button onClick={notice.undo}>Undo</Button>
            </Toast.Action>
          )}
        </Toast.Root>
      )}
      <Toast.Viewport className="fixed right-4 bottom-4 z-50 w-[min(420px,92vw)]" />
    </Toast.Provider>
  );
}
