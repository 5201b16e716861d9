import { useEffect, useState } from "react";
import type { Operation } from "./operation";
import { outbox } from "./outbox";

/** All that waits on this device, whoever made it; anew whenever it changes, in any tab. */
export function useQueued(): Operation[] {
  const [queued, setQueued] = useState<Operation[]>([]);
  useEffect(() => outbox.watch(undefined, setQueued), []);
  return queued;
}
