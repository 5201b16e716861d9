import { useState } from "react";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import { formatTime } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { editEvent, takeOutEvent } from "../operations/event-edit";
import { EventForm } from "./EventForm";
import { type Details, type Event, eventWords, kindOf } from "./events";

interface Props {
  store: DeckStore;
  view: DeckView;
  label: string;
  /** In the order in which they are shown. */
  events: readonly Event[];
  /** They can be put right and taken out; else they are only read. */
  working?: boolean;
  /** Fields that are neither shown nor corrected: they say what the event is about. */
  about?: readonly string[];
  remark?: (event: Event) => string | false;
}

/** What was said, a line each, with its time; each can be put right or taken out. */
export function EventLines({ events, label, ...line }: Props) {
  return (
    <ul aria-label={label}>
      {events.map((event) => (
        <EventLine key={event.id} event={event} {...line} />
      ))}
    </ul>
  );
}

type LineProps = Omit<Props, "events" | "label"> & { event: Event };

function EventLine({ store, view, event, working = true, about = [], remark }: LineProps) {
  const { document: deck } = view;
  const [correcting, setCorrecting] = useState(false);
  const known = kindOf(deck, event.kind);
  const kind = known && { ...known, fields: known.fields.filter(({ name }) => !about.includes(name)) };
  const details = Object.fromEntries(
    Object.entries(event.details).filter(([name]) => !about.includes(name)),
  ) as Details;
  const title = kind?.title ?? event.kind;
  const told = remark?.(event);
  return (
    <li className="border-t border-line py-1">
      <div className="flex items-center gap-2">
        <span className="text-muted">{formatTime(event.device_time, deck.outing.time_zone)}</span>
        <span className="min-w-0 flex-1">
          <strong>{title}</strong> {eventWords(deck, { kind: event.kind, details })}
          {told && <strong> ! {told}</strong>}
        </span>
        {working && kind && kind.fields.length > 0 && (
          <Button aria-expanded={correcting} onClick={() => setCorrecting(!correcting)}>
            Correct
          </Button>
        )}
        {working && (
          <Button
            onClick={() => {
              void takeOutEvent(store, event, true);
              notify(`${title} taken out.`, () => void takeOutEvent(store, event, false));
            }}
          >
            Delete
          </Button>
        )}
      </div>
      {correcting && kind && (
        <EventForm
          kind={kind}
          before={details}
          keep="Save correction"
          onSay={(_, changed) => {
            if (Object.keys(changed).length) void editEvent(store, event.id, changed as never);
            setCorrecting(false);
          }}
        />
      )}
    </li>
  );
}
