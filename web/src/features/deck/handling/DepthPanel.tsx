import { useState } from "react";
import { Button } from "@/ui/Button";
import { Caution } from "@/ui/Caution";
import { NumberField } from "@/ui/NumberField";
import { formatGrams, formatSeconds } from "@/ui/words/format";
import { VentingCard } from "../cards/HandCards";
import { SignDrawings } from "../cards/SignDrawings";
import { figuresOf } from "../operations/water-record";
import { chooseDevice, descentPlan, LEGAL_MINIMUM_G, WEIGHTS } from "../rules/descent";
import { bandFor, protocolRows } from "../rules/protocol";
import { expectedMass } from "../rules/relative-weight";
import { EventForm } from "./EventForm";
import { byTime, type Details, kindOf, lastOf } from "./events";
import { Kinds, type PanelProps } from "./Kinds";
import { useNow } from "./use-now";

/** From deck to going down: goal and limit, s. */
const GOAL_S = 120;
const LIMIT_S = 300;

/** A fish from depth: its signs and what they call for, the way down, the needle where the protocol has one; in any order. */
export function DepthPanel(props: PanelProps) {
  const { view, capture, events, say } = props;
  const { document: deck } = view;
  const rule = protocolRows(deck, "deep_water")[0];
  const ways = String(rule?.ways ?? "descend");
  const depth = lastOf(events, "depth");
  const caught = depth ? Number(depth.details.caught_m) : null;
  const likely = likelyDepth(deck, capture);
  const treated = events.filter(({ kind }) => kind === "vented" || kind === "sent_down");
  const seen = (lastOf(events, "signs")?.details.signs as string[] | undefined) ?? [];
  const todo = protocolRows(deck, "signs").filter(({ code, do: what }) => seen.includes(String(code)) && what);
  return (
    <div className="grid gap-3">
      {(caught ?? likely.caught_m) != null && (
        <FiveMinutes
          from={surfacedAt(deck, capture)}
          until={lastOf(events, "sent_down")?.device_time ?? null}
          gone={capture.release !== ""}
        />
      )}
      {treated.length > 0 && (
        <ol aria-label="In this order" className="flex flex-wrap gap-x-4">
          {treated.map((each, place) => (
            <li key={each.id}>
              <strong>{place + 1}</strong> {each.kind === "vented" ? "gas let out" : "sent down"}
            </li>
          ))}
        </ol>
      )}
      <Kinds {...props} groups={["depth"]} only={["depth", "signs"]} offered={{ depth: likely }} />
      <details className="group">
        <summary className="flex min-h-[44px] cursor-pointer items-center font-semibold">
          <span className="mr-1 inline-block group-open:rotate-90">▸</span> What the signs look like
        </summary>
        <SignDrawings signs={protocolRows(deck, "signs")} />
      </details>
      {todo.length > 0 && (
        <ul aria-label="What the signs call for" className="border-l-4 border-ink pl-3">
          {todo.map(({ code, word, do: what }) => (
            <li key={String(code)}>
              <strong>{String(word)}:</strong> {String(what)}
            </li>
          ))}
        </ul>
      )}
      {ways === "neither" && (
        <p>The protocol allows neither the way down by a device nor the needle here: let it go gently at once.</p>
      )}
      {(ways === "descend" || ways === "both") && caught !== null && <WayDown {...props} caught={caught} />}
      {(ways === "vent" || ways === "both") && <Needle view={view} capture={capture} say={say} />}
      <Kinds {...props} groups={["depth"]} only={["device", "way_down"]} />
    </div>
  );
}

/** When this fish reached the surface: as somebody said of its ascent, and else when it was called. */
function surfacedAt(deck: PanelProps["view"]["document"], { run, device_time }: PanelProps["capture"]): number {
  const called = Date.parse(device_time);
  const ascents = byTime(deck.events.filter((each) => each.run === run && each.kind === "ascent"));
  const surfaced = ascents.findLast(
    ({ details, device_time: at }) => details.what === "surface" && Date.parse(at) <= called,
  );
  const at = surfaced ? Date.parse(surfaced.device_time) : called;
  return called - at <= LONGEST_WAIT_MS ? at : called; // of longer ago was another fish
}
const LONGEST_WAIT_MS = 1_800_000;

/** How deep this fish is likely to come from, and how long it was on its way: by the run's rig, its last fish, its ascent. */
function likelyDepth(deck: PanelProps["view"]["document"], capture: PanelProps["capture"]): Details {
  const here = byTime(deck.events.filter(({ run }) => run === capture.run));
  const caught =
    here.findLast(({ kind }) => kind === "depth")?.details.caught_m ?? lastOf(here, "rig")?.details.depth_m;
  const called = Date.parse(capture.device_time);
  const begun = here.findLast(
    ({ kind, details, device_time }) =>
      kind === "ascent" && details.what === "begun" && Date.parse(device_time) <= called,
  );
  const ascent = begun ? Math.round((surfacedAt(deck, capture) - Date.parse(begun.device_time)) / 1000) : 0;
  const from = begun?.details.depth_m ?? caught;
  const stops = begun
    ? here.filter(
        ({ kind, details, device_time }) =>
          kind === "ascent" &&
          details.what === "stop" &&
          device_time > begun.device_time &&
          Date.parse(device_time) <= called,
      ).length
    : 0;
  return {
    ...(from ? { caught_m: from } : {}),
    // an ascent of longer ago was another fish's
    ...(ascent >= 1 && ascent <= 1800 ? { ascent_s: ascent, stops } : {}),
  } as Details;
}

function FiveMinutes({ from, until, gone }: { from: number; until: string | null; gone: boolean }) {
  const now = useNow();
  if (gone && !until) return null;
  const s = Math.max(0, ((until ? Date.parse(until) : now) - from) / 1000);
  const late = s >= LIMIT_S;
  return (
    <p className={late ? "font-semibold text-signal" : ""}>
      {until ? "descended after" : "at the surface for"}{" "}
      <strong className="text-3xl tabular-nums">{formatSeconds(s)}</strong>{" "}
      {late ? "! over five minutes" : s >= GOAL_S ? "over the goal of 2:00, limit 5:00" : "goal 2:00, limit 5:00"}
    </p>
  );
}

/** How deep, with what weight, how many pulls, on what; and that it goes. */
function WayDown({ view, capture, say, caught }: PanelProps & { caught: number }) {
  const { document: deck } = view;
  const rule = protocolRows(deck, "deep_water")[0];
  const devices = protocolRows(deck, "devices");
  const species = deck.species.find(({ code }) => code === capture.species);
  const mass = capture.mass_g ?? expectedMass(species?.mass_table, capture.length_mm);
  const [bottom, setBottom] = useState<number | null>(null);
  const [together, setTogether] = useState(1);
  const last = deck.water_readings.at(-1);
  const read = last ? figuresOf(last) : {};
  const rough = Number(String(read.sea_state ?? "0").split(" ")[0]) >= 5;
  const strong = read.current === "strong";
  const water: "sea" | "fresh" = deck.outing.water_kind === "coast" ? "sea" : "fresh";
  const kind = kindOf(deck, "sent_down");
  if (mass === null || !kind)
    return <p className="text-signal">? Its mass or length is needed to plan the way down.</p>;
  const lets_go_at_m = devices.map(({ lets_go_m }) => Number(lets_go_m));
  const asked = {
    mass_g: mass * together,
    depth_m: caught,
    water,
    ...(bottom ? { bottom_m: bottom } : {}),
    strong_current: strong,
    legal_minimum_g: Number(rule?.least_weight_g) || LEGAL_MINIMUM_G,
    lets_go_at_m,
    ...(deck.orders?.pull_m ? { pull_m: deck.orders.pull_m } : {}),
    swim_bladder: species?.swim_bladder !== "none",
    let_go_share: Number(rule?.share ?? 0.75),
  };
  const plan = descentPlan(asked);
  const others = WEIGHTS.slice(1).map(
    (weight) => `${weight} ${formatGrams(descentPlan({ ...asked, weight }).sinker_g)}`,
  );
  const found = chooseDevice({
    mass_g: mass,
    n_fish: together,
    rough,
    firm_bottom: !["clay", "silt", "weed"].includes(String(read.substrate ?? "")),
    depth_m: caught,
    predators: deck.events.some(({ kind: of, details }) => of === "lost" && details.how === "predator"),
    lets_go_at_m,
  });
  const descent = (device: string): Details => ({
    device,
    weight_g: Math.round(plan.sinker_g),
    let_go_m:
      Math.round(10 * (device === "pressure-clamp" && plan.lets_go_m ? plan.lets_go_m : plan.release_depth_m)) / 10,
    ...(bottom ? { bottom_m: bottom } : {}),
    ...(together > 1 ? { together } : {}),
  });
  return (
    <section aria-label="The way down" className="grid gap-2 border-t border-line pt-2">
      <p className="text-lg">
        Let go at <strong>{plan.release_depth_m.toFixed(0)} m</strong>
        {plan.pulls !== null && ` (${plan.pulls} pulls)`}, lead of <strong>{formatGrams(plan.sinker_g)}</strong>{" "}
        <span className="text-muted">({others.join(", ")})</span>
        {plan.lets_go_m !== null && `, or the clamp of ${plan.lets_go_m} m`}.{" "}
        <span className="text-muted">
          {Math.round(100 * plan.excess)} % gas too much there. {capture.mass_g === null ? "Mass by its length." : ""}
        </span>
      </p>
      {species?.swim_bladder === "open" && (
        <p className="text-sm text-muted">
          Its swim bladder is open to the gut: some gas has left on the way up; this is the most it can need.
        </p>
      )}
      {plan.notes.map((note) => (
        <p key={note} className="text-sm">
          ! {note}
        </p>
      ))}
      <div className="grid grid-cols-2 gap-3">
        <NumberField live optional label="Bottom here" unit="m" value={bottom} onNumber={setBottom} />
        <NumberField
          live
          label="Fish on one device"
          value={together}
          onNumber={(n) => setTogether(Math.max(1, Math.round(n ?? 1)))}
        />
      </div>
      <div className="flex flex-wrap gap-1.5">
        {found.map(({ code, name, fits, reasons }, place) => (
          <Button
            key={code}
            large
            look={fits && place === 0 ? "ink" : "plain"}
            className="whitespace-normal! text-left"
            title={reasons.join("; ")}
            onClick={() => say("sent_down", descent(code))}
          >
            {name} goes down
            <span className="text-sm font-normal">{fits ? reasons.at(-1) : `not here: ${reasons.join(", ")}`}</span>
          </Button>
        ))}
      </div>
      <p className="text-sm text-muted">
        Inside of the gill plate and out of the mouth, or the thin membrane of the jaw; never by the gills. Let it run
        free, do not brake the line; then a tug, or the bottom.
      </p>
    </section>
  );
}

/** The needle, where the protocol has a place for this fish; none of ours. */
function Needle({ view, capture, say }: Pick<PanelProps, "view" | "capture" | "say">) {
  const row = bandFor(protocolRows(view.document, "venting"), capture.species, capture.length_mm);
  const kind = kindOf(view.document, "vented");
  if (!kind) return null;
  if (!row)
    return (
      <p className="text-sm text-muted">
        The protocol has no place for a needle in a fish of this kind and size: none is proposed.
      </p>
    );
  return (
    <section aria-label="Needle" className="grid gap-2 border-t border-line pt-2">
      <Caution>
        Trained people only, and only where law and permit allow a needle. Too much gas out does harm too.
      </Caution>
      <VentingCard />
      <p>
        <strong>{String(row.place)}</strong>; needle {String(row.needle)}{" "}
        <span className="text-muted">(set by {String(row.person)})</span>
      </p>
      <EventForm
        kind={kind}
        given={{ place: String(row.place), needle: String(row.needle) }}
        keep="Vented"
        onSay={(all) => say("vented", all)}
      />
    </section>
  );
}
