import { useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";

interface Props {
  /** What the server asks: which stretch would no longer be kept clear of. */
  message: string;
  busy: boolean;
  onConfirm: (reason: string) => void;
  onLeave: () => void;
}

/** The question stands below a long list: it is brought into sight. */
const intoSight = (element: HTMLElement | null) => element?.scrollIntoView?.({ block: "nearest" });

/** A stretch to keep clear of goes or shrinks only where a person says that it is meant, and why. */
export function KeepOffQuestion({ message, busy, onConfirm, onLeave }: Props) {
  const [reason, setReason] = useState("");
  return (
    <section role="alert" ref={intoSight} className="mt-2 max-w-3xl border-l-4 border-signal pl-3">
      <p className="font-semibold text-signal">! {message}</p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <div className="w-72">
          <Field
            label="Reason to end the exclusion zone"
            value={reason}
            maxLength={200}
            onChange={(event) => setReason(event.target.value)}
          />
        </div>
        <Button large look="signal" disabled={reason.trim().length < 3 || busy} onClick={() => onConfirm(reason)}>
          It is meant
        </Button>
        <Button large onClick={onLeave}>
          Leave it as it is
        </Button>
      </div>
    </section>
  );
}
