import { Link } from "@tanstack/react-router";
import { useSyncExternalStore } from "react";
import { sender } from "@/offline/sender";
import { useQueued } from "@/offline/use-queued";
import { useHere, useSignInAgain } from "@/session";
import { Button } from "@/ui/Button";
import { plural } from "@/ui/words/format";

const SIGNALS = {
  sent: "",
  sending: "sending",
  "no answer": "no signal, kept here",
  held: "waiting: an entry that they belong to needs you",
  waits: "waiting for entries of another device that they belong to",
  "sign in": "",
  "other person": "somebody else is signed in on the server",
};

/** How much of the record is still only on this device. */
export function Unsent() {
  const { person, expired } = useHere();
  const signInAgain = useSignInAgain();
  const queued = useQueued();
  const signal = useSyncExternalStore(sender.subscribe, () => sender.signal);
  const mine = queued.filter((each) => each.person === person.id && each.state === "waiting").length;
  const others = queued.filter((each) => each.person !== person.id).length;
  const refused = queued.filter((each) => each.person === person.id && each.state === "refused").length;
  return (
    <p role="status" aria-label="Sending" className="flex items-center gap-2 text-sm">
      <Link to="/waiting" title="Entries queued on this device" className="inline-flex min-h-[44px] items-center">
        {mine === 0 ? (
          <span className="text-muted">{expired ? "Your sign-in has run out" : "All sent"}</span>
        ) : (
          <span>
            <strong>{mine} unsent</strong> <span className="text-muted max-sm:sr-only">{SIGNALS[signal]}</span>
          </span>
        )}
      </Link>
      {(expired || signal === "sign in" || signal === "other person") && (
        <Button look="signal" onClick={signInAgain}>
          Sign in again
        </Button>
      )}
      {refused > 0 && <strong className="text-signal">{plural(refused, "entry", "entries")} not accepted</strong>}
      {others > 0 && (
        <span className="text-signal">{others} of somebody else: they must sign in here to send them</span>
      )}
    </p>
  );
}
