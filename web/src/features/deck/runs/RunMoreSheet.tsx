import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
import { gearOf, hasRods } from "@/ui/words/gears";
import { RigCards } from "../cards/HandCards";
import type { DeckStore, DeckView } from "../document/deck-store";
import { EventForm } from "../handling/EventForm";
import { EventLines } from "../handling/EventLines";
import { byTime, type Details, detailsOfRun, type Event, kindOf } from "../handling/events";
import { Photos } from "../media/Photos";
import { recordEvent } from "../operations/event-record";
import { ResistanceLine } from "./ResistanceLine";
import { RunTrack } from "./RunTrack";
import type { Tracking } from "./use-track";

interface Props {
  store: DeckStore;
  view: DeckView;
  run: Schemas["Run"];
  events: Event[];
  tracking: Tracking;
  onClose: () => void;
}

/** All that can be said of a run, by touch; what passes say so far; all that was said. */
export function RunMoreSheet({ store, view, run, events, tracking, onClose }: Props) {
  const { document: deck } = view;
  const groups = ["run", ...(gearOf(run.gear).electric ? ["electro"] : []), ...(hasRods(run.gear) ? ["rod"] : [])];
  const kinds = deck.event_kinds.filter(({ about, group }) => about === "run" && groups.includes(group));
  const [doing, setDoing] = useState<string | null>(null);
  const kind = doing ? kindOf(deck, doing) : undefined;
  const say = (what: string, words: Details) => {
    void recordEvent(store, { run: run.id }, what, words);
    setDoing(null);
  };
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Run ${run.number}: events and notes`}
      description="Each touch is recorded at once, with its time."
    >
      <div className="flex flex-wrap gap-1.5">
        {kinds.map(({ code, title, fields }) => (
          <Button
            key={code}
            large
            look={doing === code ? "ink" : "plain"}
            aria-expanded={fields.length ? doing === code : undefined}
            onClick={() => (fields.length ? setDoing(doing === code ? null : code) : say(code, {}))}
          >
            {title}
          </Button>
        ))}
      </div>
      {kind && (
        <div className="mt-3">
          <EventForm
            key={kind.code}
            kind={kind}
            before={
              kind.code === "habitat"
                ? habitatBefore(deck, run)
                : kind.once
                  ? {
                      ...(kind.code === "hands_on" ? handsByPlan(deck) : {}),
                      ...detailsOfRun(deck.events, run.id, kind.code),
                    }
                  : kind.code === "power"
                    ? powerBefore(run)
                    : {}
            }
            onSay={(words) => say(kind.code, words)}
          />
        </div>
      )}
      {gearOf(run.gear).electric && <ResistanceLine store={store} view={view} run={run} events={events} />}
      {hasRods(run.gear) && (
        <details className="mt-3 border-t border-line pt-2">
          <summary className="min-h-[44px] cursor-pointer py-2 font-semibold">Rig and line tension</summary>
          <RigCards />
        </details>
      )}
      {gearOf(run.gear).electric && <Passes outing={deck.outing.id} site={run.site} fish={deck.captures.length} />}
      <RunTrack store={store} view={view} run={run} tracking={tracking} />
      <section aria-label="Photos of the place" className="mt-3 border-t border-line pt-2">
        <Photos store={store} view={view} capture={null} working />
      </section>
      {events.length > 0 && (
        <div className="mt-3">
          <EventLines label="Events of this run" store={store} view={view} events={[...events].reverse()} />
        </div>
      )}
    </Sheet>
  );
}

/** Who does what, by the stations of the plan. */
function handsByPlan({ orders }: DeckView["document"]): Details {
  const at = (...stations: string[]) =>
    (orders?.stations ?? [])
      .filter(({ station }) => stations.includes(station))
      .map(({ person }) => person)
      .join(", ");
  const told = {
    measurer: at("measurer"),
    recorder: at("recorder"),
    surgeon: at("tagger"),
    netters: at("netter"),
    driver: at("driver"),
  };
  return Object.fromEntries(Object.entries(told).filter(([, names]) => names));
}

/** Bottom and bank as they were recorded last at this site: in this outing, else on an earlier visit. */
function habitatBefore(deck: DeckView["document"], run: Schemas["Run"]): Details {
  const here = new Set(deck.runs.filter(({ site }) => site === run.site).map(({ id }) => id));
  const last = byTime(deck.events.filter((each) => each.kind === "habitat" && each.run && here.has(each.run))).at(-1);
  return (last?.details ?? deck.habitats?.[run.site] ?? {}) as Details;
}

const powerBefore = ({ volts, amps }: Schemas["Run"]): Details => ({
  ...(volts ? { volts } : {}),
  ...(amps ? { amps } : {}),
});

/** What passes at this site say so far, where there is a signal: a fit waits for the server. */
function Passes({ outing, site, fish }: { outing: string; site: string; fish: number }) {
  const { data, isError } = useQuery({
    queryKey: ["passes", outing, fish],
    queryFn: () => answer(api.GET("/api/v1/outings/{outing_id}/passes", { params: { path: { outing_id: outing } } })),
    retry: false,
  });
  const here = data?.find((each) => each.site === site);
  if (isError)
    return <p className="mt-3 text-sm text-muted">Results of the passes so far are available when online.</p>;
  if (!here) return null;
  return (
    <section aria-label="Passes here" className="mt-3 border-t border-line pt-2">
      <h3 className="font-semibold">
        {here.name}: {plural(here.passes, "pass", "passes")} so far
      </h3>
      {here.before && <p className="text-sm">{here.before}</p>}
      <ul>
        {here.species.map(({ species, name, catches, another, words }) => (
          <li key={species}>
            {name} <strong>{catches.join(", ")}</strong>
            {words && (
              <span className={another ? "" : "text-muted"}>
                : {words} {another ? "Another pass?" : ""}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
