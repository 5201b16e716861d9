import { useState } from "react";
import { clock } from "@/offline/clock";
import type { Operation } from "@/offline/operation";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Field } from "@/ui/Field";
import { formatDay, formatTime, plural } from "@/ui/words/format";
import type { DeckStore } from "../document/deck-store";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
/** Day and time as ISO, in this device's zone. */
const typed = (ms: number) => {
  const at = new Date(ms);
  return new Date(ms - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};

/**
 * Entries that were made while this device's clock had lost its time, all by the same clock: a person says when the first of
 * them was, and the others keep their distance from it.
 */
export function TimeOfEntries({ store, entries }: { store: DeckStore; entries: readonly Operation[] }) {
  const first = entries.reduce((a, b) => (a.device_time <= b.device_time ? a : b));
  const noted = Date.parse(first.device_time);
  // this device's clock may still be wrong: the server's counts, as far as it is known
  const wrong = clock.measured * 1000;
  const start = typed(wrong ? noted + wrong : Date.now());
  const [day, setDay] = useState(start.slice(0, 10));
  const [time, setTime] = useState(start.slice(11));
  const meant = /^\d{1,2}:\d\d$/.test(time) ? Date.parse(`${day}T${time.padStart(5, "0")}`) : Number.NaN;
  const set = async () => {
    const offset = Math.round((meant - noted) / 100) / 10;
    for (const each of entries) await store.mend(each, { clock_offset_s: offset });
  };
  return (
    <form
      className="flex flex-wrap items-end gap-3 border-b border-line py-2"
      onSubmit={(event) => {
        event.preventDefault();
        void set();
      }}
    >
      <p className="max-w-prose">
        {plural(entries.length, "entry has", "entries have")} a time that cannot be right: this device's clock had lost
        it. The first says {formatDay(first.device_time)} {formatTime(first.device_time, HERE)}.
      </p>
      <DayField label="Day of first entry" value={day} onDay={setDay} />
      <Field
        label="Time of day (HH:MM)"
        inputMode="numeric"
        autoComplete="off"
        value={time}
        onChange={({ target }) => setTime(target.value)}
      />
      <Button type="submit" look="ink" large disabled={Number.isNaN(meant) || meant > Date.now() + wrong + 60_000}>
        Set time of {entries.length === 1 ? "entry" : `all ${entries.length}`}
      </Button>
    </form>
  );
}
