import { useState } from "react";
import { Button } from "@/ui/Button";
import { Caution } from "@/ui/Caution";
import { Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { Sheet } from "@/ui/Sheet";
import { formatSeconds } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { recordEvent } from "../operations/event-record";
import { adviceFor, type Bath, bathsOf, bathTrial, inductionOf, rangeOf, STOCK_MG_ML } from "../rules/baths";
import { handLimitsFor } from "../rules/lanes";
import { EventForm } from "./EventForm";
import { EventLines } from "./EventLines";
import { type Details, type Event, eventsByFish, kindOf } from "./events";
import { InductionLine } from "./InductionLine";
import { useNow } from "./use-now";

interface Props {
  store: DeckStore;
  view: DeckView;
  onClose: () => void;
}

const FIRST = "Bath";
const AGENTS: Record<string, string> = {
  "clove-oil": "clove oil, 1:9 in ethanol",
  tricaine: "tricaine, 100 g/L",
  none: "none counted",
};

/** Baths with their running strength: what is in them, what to add or to exchange, what was done to them. */
export function BathSheet({ store, view, onClose }: Props) {
  const baths = bathsOf(view.document);
  const names = baths.size ? [...baths.keys()] : [FIRST];
  const [name, setName] = useState(names.at(-1)!);
  const [naming, setNaming] = useState<string | null>(null);
  const { bath, steps } = baths.get(name) ?? { bath: null, steps: [] };
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title="Baths"
      description="Strength as it runs, with what was left from before, exchanged and topped up. Decay is not included: an old bath may be weaker."
    >
      <div className="flex flex-wrap items-end gap-1.5">
        {[...new Set([...names, name])].map((each) => (
          <Button
            key={each}
            large
            look={each === name ? "ink" : "plain"}
            aria-pressed={each === name}
            onClick={() => setName(each)}
          >
            {each}
          </Button>
        ))}
        {naming === null ? (
          <Button onClick={() => setNaming("Gills")}>Another bath</Button>
        ) : (
          <form
            className="flex items-end gap-1.5"
            onSubmit={(event) => {
              event.preventDefault();
              if (naming.trim()) setName(naming.trim());
              setNaming(null);
            }}
          >
            <Field
              label="Its name, such as Gills"
              maxLength={30}
              value={naming}
              onChange={(event) => setNaming(event.target.value)}
            />
            <Button type="submit">Use</Button>
          </form>
        )}
      </div>
      <OneBath key={name} store={store} view={view} name={name} bath={bath} steps={steps} />
    </Sheet>
  );
}

interface OneProps {
  store: DeckStore;
  view: DeckView;
  name: string;
  bath: Bath | null;
  steps: Event[];
}

const WENT = {
  going: "Put fish in one after another, until the trial is done.",
  slow: "Slower than the goal: raise the strength within the protocol's range.",
  fast: "Too fast: exchange water before another fish goes in.",
  good: "Within the goal: others may go in.",
};

/** How the trial goes that the plan wants before others go in: by the fish of this outing whose induction was timed. */
function TrialLine({
  view: { document: deck },
  wanted,
  steps,
}: Pick<Props, "view"> & { wanted: number; steps: Event[] }) {
  // a strength that was changed is another bath: its trial begins anew
  const since = Date.parse(steps.findLast(({ kind }) => kind !== "bath_read")?.device_time ?? "1970-01-01");
  const events = eventsByFish(deck.events.filter(({ device_time }) => Date.parse(device_time) >= since));
  const times = deck.captures.flatMap(({ id }) => inductionOf(events.get(id) ?? []) ?? []);
  const limits = handLimitsFor(deck, "", null);
  const trial = bathTrial(
    times,
    wanted,
    limits.induction_goal_s ?? limits.induction_warn_s,
    limits.induction_fast_s ?? 0,
  );
  return (
    <p className={trial.went === "slow" || trial.went === "fast" ? "font-semibold text-signal" : "font-semibold"}>
      Trial: {trial.done} of {trial.wanted} fish timed
      {trial.median_s !== null && `, median induction ${formatSeconds(trial.median_s)}`}. {WENT[trial.went]}
    </p>
  );
}

function OneBath({ store, view, name, bath, steps }: OneProps) {
  const { document: deck } = view;
  const orders = deck.orders?.bath ?? null;
  const trialFish = orders?.trial_fish ?? 0;
  const now = useNow() / 1000;
  const [doing, setDoing] = useState<string | null>(bath?.litres == null ? "bath_filled" : null);
  const range = bath?.litres != null ? rangeOf(deck, bath.agent, bath.purpose) : null;
  const wanted =
    orders && bath && orders.agent === bath.agent && orders.purpose === bath.purpose
      ? orders.target_mg_l
      : (range?.[0] ?? null);
  const [typed, setTarget] = useState<number | null>(null);
  const target = typed ?? wanted;
  const beyond = range && target !== null && (target < range[0] || target > range[1]);
  const advice = bath && target !== null && !beyond ? adviceFor(bath, target) : null;
  const say = (what: string, details: Details) => recordEvent(store, "outing", what, { ...details, bath: name });
  const filled = steps.findLast(({ kind }) => kind === "bath_filled");
  const before: Details = filled
    ? Object.fromEntries(Object.entries(filled.details).filter(([field]) => field !== "bath" && field !== "kept_l"))
    : orders
      ? { agent: orders.agent, purpose: orders.purpose, litres: orders.litres }
      : {};
  return (
    <div className="mt-3 grid gap-3">
      {bath?.litres != null && (
        <>
          <p className="text-lg">
            <strong className="text-3xl">{bath.mg_l.toFixed(1)} mg/L</strong> of {AGENTS[bath.agent] ?? bath.agent} in{" "}
            <strong>{bath.litres.toFixed(0)} L</strong>
            <span className="text-muted">
              , to {bath.purpose}
              {bath.filled_at_s !== null && `, filled ${formatSeconds(now - bath.filled_at_s)} ago`}
              {range && `; the protocol allows ${range[0]} to ${range[1]} mg/L`}
            </span>
          </p>
          {range && bath.mg_l > range[1] && (
            <p className="font-semibold text-signal">
              ! Stronger than the protocol allows. Exchange water before a fish goes in.
            </p>
          )}
          {bath.stock_mg_ml !== null && (
            <div className="grid items-end gap-3 sm:grid-cols-[14rem_1fr]">
              <NumberField
                live
                label="Strength wanted"
                unit="mg/L"
                value={target}
                onNumber={setTarget}
                error={
                  beyond
                    ? `Expected ${range![0]} to ${range![1]} mg/L; the lowest that holds the fish still.`
                    : undefined
                }
              />
              {advice &&
                (advice.exchange_l > 0.005 ? (
                  <Button
                    look="ink"
                    large
                    className="min-h-14!"
                    onClick={() => void say("bath_exchanged", { litres: Number(advice.exchange_l.toFixed(2)) })}
                  >
                    Exchange {advice.exchange_l.toFixed(1)} L for fresh water: done
                  </Button>
                ) : advice.add_ml > 0.0005 ? (
                  <Button
                    look="ink"
                    large
                    className="min-h-14! whitespace-normal!"
                    onClick={() => void say("bath_dosed", { ml: Number(advice.add_ml.toFixed(3)) })}
                  >
                    Add {advice.add_ml.toFixed(1)} mL of stock
                    {orders && ` (${(advice.add_ml / orders.cap_ml).toFixed(1)} caps of ${orders.cap_ml} mL)`}: done
                  </Button>
                ) : (
                  <p>It has what is wanted.</p>
                ))}
            </div>
          )}
        </>
      )}
      <div className="flex flex-wrap gap-1.5">
        {deck.event_kinds
          .filter(({ about }) => about === "bath")
          .map(({ code, title }) => (
            <Button
              key={code}
              large
              aria-expanded={doing === code}
              onClick={() => setDoing(doing === code ? null : code)}
            >
              {title}
            </Button>
          ))}
      </div>
      {doing && kindOf(deck, doing) && (
        <EventForm
          key={doing}
          kind={kindOf(deck, doing)!}
          given={{ bath: name }}
          before={doing === "bath_filled" ? before : {}}
          onSay={(details) => {
            void say(doing, details);
            setDoing(null);
          }}
        />
      )}
      {doing === "bath_filled" && (
        <p className="text-sm text-muted">
          Stock as usual: clove oil {STOCK_MG_ML["clove-oil"]} mg/mL, tricaine {STOCK_MG_ML.tricaine} mg/mL; empty means
          that.
        </p>
      )}
      {steps.length > 0 && (
        <EventLines
          label="What was done to it"
          store={store}
          view={view}
          events={[...steps].reverse()}
          about={["bath"]}
          remark={({ id }) =>
            bath?.twice.includes(id)
              ? "within 20 s of the same dose: taken for one touch felt twice, not counted"
              : bath?.undone.includes(id) === true && "cannot have been so here: not counted"
          }
        />
      )}
      {bath?.litres != null && trialFish > 0 && <TrialLine view={view} wanted={trialFish} steps={steps} />}
      {bath && bath.agent !== "none" && (
        <InductionLine programme={deck.outing.programme} agent={bath.agent} purpose={bath.purpose} />
      )}
      <Caution>
        The lowest dose that holds the fish still. Local code, permit, animal-care protocol and the licensed person
        decide. Gloves and eye protection; no stock in drains or open water. A fish whose gills stop goes into fresh
        water at once.
      </Caution>
    </div>
  );
}
