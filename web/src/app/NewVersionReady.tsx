import { Button } from "@/ui/Button";
import { newVersion, useNewVersion } from "./new-version";

/** A new version of the application waits; it comes by itself when the application is opened anew. */
export function NewVersionReady() {
  if (!useNewVersion()) return null;
  return (
    <Button title="Loads it now: what you kept stays, what is half typed does not" onClick={newVersion.take}>
      New version: load it
    </Button>
  );
}
