import { Button } from "@/ui/Button";
import { plural } from "@/ui/words/format";
import { newVersion, useNewVersion } from "./new-version";
import { daysLeft } from "./old-screens";

/** These screens are so old that the server will soon not understand what is recorded with them. */
export function OldScreens() {
  const waiting = useNewVersion();
  const left = daysLeft(__BUILT__, Date.now());
  if (left === null) return null;
  return (
    <div role="status" className="flex flex-wrap items-center gap-3 border-b border-signal px-4 py-2">
      <p className="flex-1">
        {left > 0
          ? `These screens are of ${__BUILT__}. The server understands their entries for ${plural(left, "more day", "more days")}: send what waits, then load the new version.`
          : `These screens are of ${__BUILT__}, too old for the server to promise that it understands their entries. Send what waits or save it as a file, then load the new version.`}
      </p>
      {waiting && <Button onClick={newVersion.take}>Load new version</Button>}
    </div>
  );
}
