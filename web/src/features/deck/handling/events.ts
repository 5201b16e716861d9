import type { Schemas } from "@/api/schemas";
import type { Deck } from "../scope";

export type Event = Schemas["Event"];
export type EventKind = Schemas["EventKind"];
export type EventField = Schemas["EventField"];
export type Details = Record<string, string | number | string[]>;

/** What was said of a fish, in the order in which it happened. */
export function eventsOf(events: readonly Event[], capture: string): Event[] {
  return byTime(events.filter((each) => each.capture === capture));
}

/** What was said of a fish by kind of event, each in order of time. */
export function detailsByKind(events: readonly Event[], capture: string): Record<string, Details[]> {
  const found: Record<string, Details[]> = {};
  for (const { kind, details } of eventsOf(events, capture)) {
    found[kind] ??= [];
    found[kind].push(details as Details);
  }
  return found;
}

/** What was said of each fish, in the order in which it happened. */
export function eventsByFish(events: readonly Event[]): Map<string, Event[]> {
  const found = new Map<string, Event[]>();
  for (const each of byTime(events)) {
    if (!each.capture) continue;
    const of = found.get(each.capture);
    if (of) of.push(each);
    else found.set(each.capture, [each]);
  }
  return found;
}

export function byTime(events: readonly Event[]): Event[] {
  return [...events].sort((a, b) => Date.parse(a.device_time) - Date.parse(b.device_time) || (a.id < b.id ? -1 : 1));
}

/** The last thing of a kind that was said. */
export const lastOf = (events: readonly Event[], kind: string): Event | undefined =>
  events.findLast((each) => each.kind === kind);

export const kindOf = (deck: Pick<Deck, "event_kinds">, code: string): EventKind | undefined =>
  deck.event_kinds.find((each) => each.code === code);

/** What an event says, in a line: words for codes, units behind figures. */
export function eventWords(deck: Pick<Deck, "event_kinds">, event: Pick<Event, "kind" | "details">): string {
  const kind = kindOf(deck, event.kind);
  const words = (kind?.fields ?? []).flatMap((field) => {
    const value = event.details[field.name];
    if (value == null) return [];
    const word = (code: string) => field.choices.find((each) => each.value === code)?.label ?? code;
    if (Array.isArray(value))
      return value.length ? [`${field.title.toLowerCase()}: ${value.map(word).join(", ")}`] : [];
    if (field.choices.length) return [word(String(value))];
    if (typeof value === "number") return [`${field.title.toLowerCase()} ${value} ${field.unit}`.trim()];
    return [String(value)];
  });
  if (!words.length && event.kind === "signs") return "none seen";
  return words.join(", ");
}

/** What was said of a run of a kind that is said once; where nothing was, what was said of the run before it, to be kept or changed. */
export function detailsOfRun(events: readonly Event[], run: string | undefined, kind: string): Details {
  const recorded = byTime(events).filter((each) => each.kind === kind && each.capture === null);
  return ((recorded.findLast((each) => each.run === run) ?? recorded.at(-1))?.details ?? {}) as Details;
}
