import { Bell, BellOff, Ellipsis } from "lucide-react";
import { memo, useDeferredValue, useMemo, useState } from "react";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { formatSeconds, plural } from "@/ui/words/format";
import type { DeckView } from "../document/deck-store";
import { useClockJump } from "../outing/use-clock-jump";
import { unfitWater } from "../rules/baths";
import { type Aboard, aboardOf, type Lane, nextLane, type Token, tokensAt } from "../rules/lanes";
import { wellFull, wellOf } from "../rules/well";
import { useAlarm } from "./use-alarm";
import { useNow } from "./use-now";

interface Props {
  view: DeckView;
  /** Fish go on into a lane, or out of the boat where there is none. */
  onMove: (tokens: Token[], to: Lane | null) => void;
  onOpen: (token: Token) => void;
  onBaths: () => void;
  /** All fish of a lane are to be treated at once. */
  onTreat: (tokens: Token[]) => void;
  /** In a few words: the strength of the bath that was filled last. */
  bath: string;
}

/** As many tokens of a lane as are drawn; the rest is a number: the most pressing stand first. */
const SHOWN = 4;
const MARK = { good: "○", soon: "◐", over: "●" };

/** Fish stand in lanes as tokens that fill with time; one touch moves one on, and what is overdue stands first. */
export const LaneStrip = memo(function LaneStrip({ view, ...props }: Props) {
  // after the fish that was called is painted: lanes must not hold up the next call
  const deck = useDeferredValue(view.document);
  const aboard = useMemo(() => aboardOf(deck), [deck.captures, deck.events, deck.protocol]);
  return <Lanes deck={deck} aboard={aboard} {...props} />;
});

const Lanes = memo(function Lanes({
  deck,
  aboard,
  onMove,
  onOpen,
  onBaths,
  onTreat,
  bath,
}: Omit<Props, "view"> & { deck: DeckView["document"]; aboard: Aboard }) {
  const [jumped, clockIsRight] = useClockJump();
  // a clock that was set back must not put fish back into lanes that they have left: it stands still until it is right
  const now = Math.max(useNow() / 1000, aboard.latest_s);
  const byLane = tokensAt(aboard, now);
  const { lanes, uncalled } = aboard;
  const inWell = (byLane.get("well") ?? byLane.get(lanes[0]?.code ?? "") ?? []).map(({ capture }) => capture);
  const full = [wellFull(deck, wellOf(deck, inWell, uncalled)), ...unfitWater(deck)]
    .filter(Boolean)
    .map((words) => `! ${words}`)
    .join(" ");
  const over = [...byLane.values()].flat().filter(({ status }) => status === "over").length;
  const { muted, mute } = useAlarm(over);
  const [unfolded, setUnfolded] = useState<string | null>(null);
  // fish may stand in a lane that the protocol of this outing does not have
  const shown: Lane[] = [
    ...lanes,
    ...[...byLane.keys()]
      .filter((code) => !lanes.some((lane) => lane.code === code))
      .map((code) => ({ code, word: code, most_s: null, in_air: false })),
  ];
  return (
    <section aria-label="Lanes" className="border-t border-line px-4 py-1 max-sm:px-2">
      <div className="flex flex-wrap items-stretch gap-x-2 gap-y-1">
        {shown.map((lane, place) => {
          const tokens = byLane.get(lane.code) ?? [];
          const fish = tokens.reduce((sum, { capture }) => sum + (capture.count ?? 1), 0);
          const waiting = place === 0 ? uncalled.reduce((sum, { left }) => sum + left, 0) : 0;
          const oldest = place === 0 && uncalled.length > 0 ? now - uncalled[0]!.at_s + uncalled[0]!.held_s : 0;
          const most = unfolded === lane.code ? tokens.length : SHOWN;
          const next = nextLane(lanes, lane.code);
          if (lane.aside && !tokens.length) return null; // reached by choice, from a fish's own sheet
          return (
            <section
              key={lane.code}
              aria-label={lane.word}
              className="flex min-w-0 flex-wrap items-center gap-1 border-l border-line pl-2 first:border-l-0 first:pl-0 max-sm:basis-full max-sm:border-l-0 max-sm:pl-0"
            >
              <div className="mr-1 leading-tight">
                <h2 className="font-semibold whitespace-nowrap">
                  {lane.word} <span className="text-lg leading-none">{fish}</span>
                </h2>
                <p className="text-xs whitespace-nowrap text-muted">
                  {waiting > 0
                    ? `+ ${waiting} to call, ${formatSeconds(oldest)}`
                    : lane.most_s != null &&
                      `to ${lane.most_s >= 7200 ? `${+(lane.most_s / 3600).toFixed(1)} h` : `${+(lane.most_s / 60).toFixed(1)} min`}`}
                </p>
              </div>
              {lane.code === "bath" && <Button onClick={onBaths}>{bath || "Bath"}</Button>}
              <ul className="flex flex-wrap gap-1">
                {inSight(tokens, most).map((token) => (
                  <TokenButton key={token.capture.id} token={token} next={next} onMove={onMove} onOpen={onOpen} />
                ))}
                {tokens.length > SHOWN && (
                  <li>
                    <Button
                      aria-expanded={unfolded === lane.code}
                      onClick={() => setUnfolded(unfolded === lane.code ? null : lane.code)}
                    >
                      {unfolded === lane.code ? "fewer" : `+ ${tokens.length - SHOWN}`}
                    </Button>
                  </li>
                )}
              </ul>
              {tokens.length > 1 && (
                <Button
                  aria-label={`All of ${lane.word} on`}
                  title={next ? `All to ${next.word}` : "All go"}
                  onClick={() => onMove(tokens, next)}
                >
                  all ▸
                </Button>
              )}
              {tokens.length > 1 && (
                <Button
                  aria-label={`Record for all of ${lane.word}`}
                  title="Record something for all of them"
                  onClick={() => onTreat(tokens)}
                >
                  <Ellipsis size={18} />
                </Button>
              )}
            </section>
          );
        })}
        <div className="ml-auto flex gap-1">
          <Button
            aria-label={muted ? "Sound is off: on" : "Sound is on: off"}
            aria-pressed={muted}
            onClick={() => mute(!muted)}
          >
            {muted ? <BellOff size={18} /> : <Bell size={18} />}
          </Button>
        </div>
      </div>
      {jumped !== 0 && (
        <p role="status" className="mt-1 border-l-4 border-signal pl-2 text-sm font-semibold">
          ! This tablet's clock has gone {jumped > 0 ? "ahead" : "back"} by {Math.abs(jumped)} min at one stroke, or it
          slept. Look whether it is right; nothing that was kept has changed.{" "}
          <Button onClick={clockIsRight}>It is right</Button>
        </p>
      )}
      {(full || over > 0) && (
        <p className="mt-1 border-l-4 border-signal pl-2 text-sm font-semibold" role="status">
          {full}{" "}
          {over > 0 && (
            <>
              ! {plural(over, "fish", "fish")} over time. <Key>F6</Key> moves the first on, <Key>F7</Key> opens it.
            </>
          )}
        </p>
      )}
    </section>
  );
});

/** The most pressing ones, and the one that was called last: it is in somebody's hands. */
function inSight(tokens: Token[], most: number): Token[] {
  if (tokens.length <= most) return tokens;
  // by its call: fish of one batch came aboard at one time
  const called = ({ capture }: Token) => Date.parse(capture.device_time);
  const newest = tokens.reduce((last, each) => (called(each) >= called(last) ? each : last));
  const first = tokens.slice(0, most);
  return first.includes(newest) ? first : [...first.slice(0, -1), newest];
}

interface TokenProps {
  token: Token;
  next: Lane | null;
  onMove: Props["onMove"];
  onOpen: Props["onOpen"];
}

function TokenButton({ token, next, onMove, onOpen }: TokenProps) {
  const { capture, stand, status, share, why, waitsForMass, recapture } = token;
  const name = `${capture.species} ${capture.length_text || (capture.count > 1 ? `x ${capture.count}` : "")}`.trim();
  const air = stand.air_now_s > 0;
  return (
    <li
      className={`relative flex items-stretch overflow-hidden rounded-sm border bg-raised ${status === "over" ? "border-2 border-signal" : status === "soon" ? "border-ink" : "border-line"}`}
    >
      <button
        type="button"
        className="min-h-[44px] min-w-21 cursor-pointer touch-manipulation px-1.5 text-left leading-tight select-none"
        title={[next ? `on to ${next.word}` : "goes", why].filter(Boolean).join("; ")}
        // the call line keeps the cursor: the next thing typed is a fish
        onMouseDown={(event) => event.preventDefault()}
        onClick={() => onMove([token], next)}
      >
        <span className="block text-sm font-semibold whitespace-nowrap">
          {name} {recapture && <span title="recaptured: process first">↺</span>}
          {waitsForMass && <span title="waits for its mass"> g?</span>}
        </span>
        <span className={`block text-xs whitespace-nowrap ${status === "over" ? "font-semibold text-signal" : ""}`}>
          {MARK[status]}
          {status === "over" && "!"} {formatSeconds(stand.in_lane_s)}
          {air
            ? ` · air ${formatSeconds(stand.air_now_s)}`
            : stand.air_s > 0
              ? ` · air Σ ${formatSeconds(stand.air_s)}`
              : ""}
        </span>
        <span className="sr-only">{next ? `on to ${next.word}` : "goes"}</span>
      </button>
      <button
        type="button"
        className="min-h-[44px] min-w-[44px] cursor-pointer border-l border-line"
        aria-label={`${name}: all that is said of it`}
        onClick={() => onOpen(token)}
      >
        <Ellipsis size={18} className="mx-auto" />
      </button>
      <span
        aria-hidden="true"
        className={`absolute bottom-0 left-0 h-1 ${status === "over" ? "bg-signal" : "bg-ink"}`}
        style={{ width: `${Math.min(100, 100 * share)}%` }}
      />
    </li>
  );
}
