import { useEffect } from "react";
import { saveCarried } from "@/offline/carried";
import { useQueued } from "@/offline/use-queued";
import { Button } from "@/ui/Button";
import { plural } from "@/ui/words/format";

/** Entries for which this device has no room: they go on being taken, and this says what would be lost with the page. */
export function UnsavedEntries() {
  const queued = useQueued();
  const n = queued.filter(({ unsaved }) => unsaved).length;
  useEffect(() => {
    if (!n) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [n]);
  if (!n) return null;
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 bg-signal px-4 py-2 font-semibold text-paper">
      <p className="flex-1">
        This device has no room: {plural(n, "entry is", "entries are")} in the memory of this page alone. Go on, save
        them, and keep this page open; free some space.
      </p>
      <Button onClick={() => void saveCarried(queued)}>Save them as a file</Button>
    </div>
  );
}
