import { useSyncExternalStore } from "react";
import { clock, spanOf } from "@/offline/clock";
import { Button } from "@/ui/Button";
import { formatDay, formatTime } from "@/ui/words/format";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const moment = (ms: number) => {
  const text = new Date(ms).toISOString();
  return `${formatDay(text)} ${formatTime(text, HERE)}`;
};

/** This device's clock and the server's have come apart by more than a minute: a person says which is right. */
export function ClockQuestion() {
  const { asked } = useSyncExternalStore(clock.subscribe, () => clock.now);
  if (asked === null) return null;
  const now = Date.now();
  return (
    <section
      aria-label="Clock of this device"
      className="flex flex-wrap items-center gap-3 border-b border-signal px-4 py-2"
    >
      <p className="flex-1">
        This device's clock is <strong>{spanOf(asked)}</strong>: it shows {moment(now)}, the server{" "}
        {moment(now + asked * 1000)}. Which time should new entries have?
      </p>
      <Button large look="ink" onClick={() => clock.decide(true)}>
        Use server time
      </Button>
      <Button large onClick={() => clock.decide(false)}>
        Keep this device's time
      </Button>
    </section>
  );
}
