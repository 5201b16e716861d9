import { useState } from "react";
import type { Schemas } from "@/api/client";
import type { DeckStore, DeckView } from "../document/deck-store";
import { EventForm } from "./EventForm";
import { type Details, type Event, type EventKind, eventWords, lastOf } from "./events";

/** What a panel of one fish is given. */
export interface PanelProps {
  store: DeckStore;
  view: DeckView;
  capture: Schemas["Capture"];
  events: Event[];
  say: (what: string, details: Details) => void;
}

interface KindsProps {
  groups: string[];
  only?: string[];
  /** None is open at first. */
  folded?: boolean;
  /** What is likely to be said, by kind; it stands in the fields until it is kept. */
  offered?: Record<string, Details>;
}

/** Kinds of event of some groups, each opened by a touch on its name; what was said of it last stands beside. */
export function Kinds({
  view,
  events,
  say,
  groups,
  only,
  offered = {},
  folded = false,
}: Pick<PanelProps, "view" | "events" | "say"> & KindsProps) {
  const kinds = view.document.event_kinds.filter(
    ({ about, group, code }) =>
      about === "fish" && groups.includes(group) && code !== "air" && (!only || only.includes(code)),
  );
  // what one touch says is always in sight; of the others one at a time, the first of which nothing was said yet
  const next = kinds.find(({ code }) => !lastOf(events, code));
  const [open, setOpen] = useState<string | null>(
    folded || kinds.some(isOneTouch) || next !== kinds[0] ? null : (next?.code ?? null),
  );
  return (
    <div className="grid gap-1">
      {kinds.map((kind) => (
        <OneKind
          key={kind.code}
          kind={kind}
          open={open === kind.code}
          onOpen={() => setOpen(open === kind.code ? null : kind.code)}
          view={view}
          events={events}
          say={say}
          offered={offered[kind.code]}
        />
      ))}
    </div>
  );
}

const isOneTouch = ({ fields }: EventKind) => fields.length === 1 && fields[0]!.choices.length > 0 && !fields[0]!.many;

interface OneKindProps extends Pick<PanelProps, "view" | "events" | "say"> {
  kind: EventKind;
  open: boolean;
  offered: Details | undefined;
  onOpen: () => void;
}

function OneKind({ kind, open, offered, onOpen, view, events, say }: OneKindProps) {
  const recorded = events.filter((each) => each.kind === kind.code);
  const told = (kind.once ? recorded.slice(-1) : recorded).map((each) => eventWords(view.document, each)).join("; ");
  const before = kind.once ? recorded.at(-1) : undefined;
  const empty = kind.fields.some((field) => field.needed && field.of_protocol && !field.choices.length);
  const nothing = (
    <p className="text-sm text-muted">The protocol names none of these; a lead enters them in Settings.</p>
  );
  if (isOneTouch(kind))
    return (
      <section
        aria-label={kind.title}
        className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-1"
      >
        <h3 className="w-44 font-semibold">{kind.title}</h3>
        {empty ? (
          nothing
        ) : (
          <EventForm
            key={recorded.length}
            kind={kind}
            before={before?.details as Details | undefined}
            onSay={(all) => say(kind.code, all)}
          />
        )}
        {!kind.once && <span className="text-muted">{told}</span>}
      </section>
    );
  return (
    <section aria-label={kind.title} className="border-b border-line">
      <button
        type="button"
        aria-expanded={open}
        className="flex min-h-[44px] w-full cursor-pointer items-center gap-3 text-left"
        onClick={onOpen}
      >
        <span className="font-semibold">
          {open ? "▾" : "▸"} {kind.title}
        </span>
        <span className="text-muted">{told}</span>
      </button>
      {open && (
        <div className="pb-2">
          {empty ? (
            nothing
          ) : (
            <EventForm
              key={recorded.length}
              kind={kind}
              before={{ ...offered, ...(before?.details as Details | undefined) }}
              onSay={(all) => {
                say(kind.code, all);
                if (kind.once) onOpen(); // it is said: what comes next is in sight
              }}
            />
          )}
        </div>
      )}
    </section>
  );
}
