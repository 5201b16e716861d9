import { useState } from "react";
import { Button } from "@/ui/Button";
import { Caution } from "@/ui/Caution";
import { formatSeconds } from "@/ui/words/format";
import { GiveTag } from "../tagging/GiveTag";
import { TagAdvice } from "../tagging/TagAdvice";
import { EventForm } from "./EventForm";
import { detailsOfRun, kindOf, lastOf } from "./events";
import { Kinds, type PanelProps } from "./Kinds";
import { useNow } from "./use-now";

/** The steps in their order, big and one-handed, each with its time; gills asked for every minute. */
export function SurgeryPanel(props: PanelProps) {
  const { view, capture, events, say } = props;
  const { surgery } = view.document;
  const begun = lastOf(events, "surgery");
  const kind = kindOf(view.document, "surgery");
  const before = lastOf(view.document.events, "surgery");
  const { surgeon } = detailsOfRun(view.document.events, capture.run, "hands_on");
  if (!surgery || !kind) return <p className="text-muted">The steps come with the next signal.</p>;
  const burden = <Burden {...props} />;
  if (!begun)
    return (
      <div className="grid gap-3">
        <Caution>{surgery.caution}</Caution>
        {burden}
        <TagAdvice deck={view.document} capture={capture} />
        <EventForm
          kind={kind}
          before={{
            ...(surgeon ? { surgeon } : {}),
            ...Object.fromEntries(Object.entries(before?.details ?? {}).filter(([field]) => field !== "version")),
          }}
          given={{ version: surgery.version }}
          keep="Begin"
          onSay={(details) => say("surgery", details)}
        />
      </div>
    );
  return <Steps {...props} begunAt={Date.parse(begun.device_time)} />;
}

/** What the plan's tag weighs against this fish; nothing where either mass is not known. */
function Burden({ view, capture }: PanelProps) {
  const tags = view.document.orders?.tags;
  if (tags?.mass_g == null || tags.burden == null || !capture.mass_g) return null;
  const share = tags.mass_g / capture.mass_g;
  const over = share > tags.burden;
  return (
    <p className={over ? "font-semibold text-signal" : ""}>
      {over && "! "}The plan's tag of {tags.mass_g} g is {(100 * share).toFixed(1)} % of this fish; at most{" "}
      {(100 * tags.burden).toFixed(1)} %.
    </p>
  );
}

function Steps(props: PanelProps & { begunAt: number }) {
  const { view, events, say, begunAt } = props;
  const now = useNow();
  const [skipping, setSkipping] = useState(false);
  const { surgery } = view.document;
  const since = events.filter(({ device_time }) => Date.parse(device_time) >= begunAt);
  const taken = new Map(since.filter(({ kind }) => kind === "step").map((each) => [String(each.details.step), each]));
  const next = surgery.steps.find(({ code }) => !taken.has(code));
  const stepAt = Math.max(begunAt, ...[...taken.values()].map(({ device_time }) => Date.parse(device_time)));
  const gills = lastOf(since, "gills");
  const gillsAt = gills ? Date.parse(gills.device_time) : begunAt;
  const askGills = next !== undefined && (now - gillsAt) / 1000 >= surgery.watch_every_s;
  const gillsKind = kindOf(view.document, "gills");
  const step = kindOf(view.document, "step");
  return (
    <div className="grid gap-3">
      <p className="flex flex-wrap items-baseline gap-x-5">
        <span>
          since it began{" "}
          <strong className="text-3xl tabular-nums">{formatSeconds(Math.max(0, (now - begunAt) / 1000))}</strong>
        </span>
        <span>
          this step{" "}
          <strong className="text-3xl tabular-nums">{formatSeconds(Math.max(0, (now - stepAt) / 1000))}</strong>
        </span>
        <span className={askGills ? "font-semibold text-signal" : "text-muted"}>
          {askGills ? "! " : ""}gills{" "}
          {gills ? `${gills.details.beats}/min, ${formatSeconds((now - gillsAt) / 1000)} ago` : "not told yet"}
        </span>
      </p>
      {next ? (
        <>
          <Button
            look="ink"
            className="min-h-20! w-full text-2xl! whitespace-normal!"
            onClick={() => say("step", { step: next.code, done: "done" })}
          >
            {next.words}
          </Button>
          <Button className="justify-self-start" aria-expanded={skipping} onClick={() => setSkipping(!skipping)}>
            Skip this step
          </Button>
          {skipping && step && (
            <EventForm
              kind={step}
              given={{ step: next.code, done: "skipped" }}
              keep="Skipped"
              onSay={(details) => {
                say("step", details);
                setSkipping(false);
              }}
            />
          )}
        </>
      ) : (
        <p className="font-semibold">All steps are through.</p>
      )}
      {taken.get("tag-in")?.details.done === "done" && !props.capture.placed.length && (
        <GiveTag store={props.store} view={view} capture={props.capture} />
      )}
      {gillsKind && (
        <section aria-label="Gills" className={askGills ? "border-l-4 border-signal pl-3" : ""}>
          <EventForm
            key={gills?.id ?? "first"}
            kind={gillsKind}
            keep="Gills seen"
            onSay={(details) => say("gills", details)}
          />
        </section>
      )}
      <Kinds {...props} groups={["surgery"]} only={["tag_checked", "incision"]} folded />
      <ol aria-label="Steps" className="text-sm">
        {surgery.steps.map(({ code, words }) => {
          const event = taken.get(code);
          return (
            <li key={code} className={event ? "" : "text-muted"}>
              {event ? (event.details.done === "skipped" ? "! skipped" : "✓") : "·"} {words}
              {event && ` ${formatSeconds((Date.parse(event.device_time) - begunAt) / 1000)}`}
              {event?.details.why ? ` (${event.details.why})` : ""}
            </li>
          );
        })}
      </ol>
      <Caution>{surgery.caution}</Caution>
    </div>
  );
}
