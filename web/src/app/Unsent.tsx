import { useLiveQuery } from "dexie-react-hooks";
import { useSyncExternalStore } from "react";
import { offline } from "@/offline/database";
import { sender } from "@/offline/sender";
import { plural } from "@/ui/format";
import { useHere } from "./session";

const SIGNALS = {
  sent: "",
  sending: "sending",
  "no answer": "no signal, kept here",
  "sign in": "sign in again to send",
};

/** How much of the record is still only on this device. */
export function Unsent() {
  const { person } = useHere();
  const queued = useLiveQuery(() => offline.operations.toArray(), []) ?? [];
  const signal = useSyncExternalStore(sender.subscribe, () => sender.signal);
  const mine = queued.filter((each) => each.person === person.id && each.state === "waiting").length;
  const others = queued.filter((each) => each.person !== person.id).length;
  const refused = queued.filter((each) => each.person === person.id && each.state === "refused").length;
  return (
    <p role="status" aria-label="Sending" className="flex items-center gap-2 text-sm">
      {mine === 0 ? (
        <span className="text-muted">All sent</span>
      ) : (
        <span>
          <strong>{mine} unsent</strong> <span className="text-muted">{SIGNALS[signal]}</span>
        </span>
      )}
      {refused > 0 && <strong className="text-signal">{plural(refused, "entry", "entries")} not accepted</strong>}
      {others > 0 && (
        <span className="text-signal">{others} of somebody else: they must sign in here to send them</span>
      )}
    </p>
  );
}
