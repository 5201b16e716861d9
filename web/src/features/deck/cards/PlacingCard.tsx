import type { Schemas } from "@/api/client";
import { FishOutline, NeedleLine } from "./FishOutline";

type Kind = Schemas["TagKindEnum"];

/** How each kind of tag is set, step by step (common practice, no source). */
const STEPS: Record<Kind, readonly string[]> = {
  tbar: [
    "Left side, at the foot of the rear spines of the back fin.",
    "Needle flat to the body, pointing forward, in until the bar is past the bones that carry the fin.",
    "Turn the needle, draw it out, pull lightly: the tag must hold.",
  ],
  dart: [
    "Band the tag to its needle so that only the barb stands free.",
    "Under the back fin, pointing forward, deep enough for the barb to hook behind the fin bones.",
    "Draw the needle out along its own path; pull lightly.",
  ],
  dart2: [
    "Both barbs on the needle, tips forward.",
    "One firm stroke under the back fin, past the fin bones.",
    "Draw the needle out; pull lightly on both sides.",
  ],
  metal: [
    "Sharp, straight point; the head sits on it without play.",
    "Thick muscle beside the back fin, away from the head and the spine.",
    "One stroke to the mark on the pole; draw out straight.",
  ],
  disc: [
    "Pin through the muscle under the back fin, square to the body.",
    "A disc on each side, flat, not tight.",
    "Bend the pin over and leave room: the fish grows.",
  ],
  pit: [
    "Read the tag first; needle with the bevel up.",
    "At the place that the protocol names, under a scale, pointing forward, only as deep as the tag is long.",
    "Press the place as the needle comes out, and read the fish again.",
  ],
  acoustic: ["By surgery, at the Surgery tab.", "Heard before it goes in.", "The external tag tells a finder."],
  radio: ["By surgery, at the Surgery tab.", "The aerial leaves the body behind the cut.", "Heard before it goes in."],
  satellite: [
    "Anchor into thick muscle beside the back fin.",
    "Magnet off, signal heard, before the fish is lifted.",
    "The tether swings free and does not touch the tail.",
  ],
  archival: [
    "By surgery, or outside by the card of its anchor.",
    "Its clock is right.",
    "A finder's text stands on it.",
  ],
};

const BY_SURGERY: ReadonlySet<Kind> = new Set(["acoustic", "radio", "archival"]);

/** How a tag of a kind is set: a drawing and three steps, before the hand moves. */
export function PlacingCard({ kind }: { kind: Kind }) {
  return (
    <figure className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <FishOutline label={`Where the tag goes: ${STEPS[kind][0]}`}>
        {BY_SURGERY.has(kind) ? <Cut /> : kind === "pit" ? <Pit /> : <Anchored kind={kind} />}
      </FishOutline>
      <figcaption className="min-w-56 flex-1">
        <ol className="list-decimal pl-5 text-sm">
          {STEPS[kind].map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      </figcaption>
    </figure>
  );
}

/** Toward the head, at the foot of the back fin; beside it what holds, behind the fin bones. */
function Anchored({ kind }: { kind: Kind }) {
  return (
    <>
      <NeedleLine from={[208, 12]} to={[150, 44]} />
      <g transform="translate(262 24)">
        <circle r="21" fill="var(--paper)" />
        {/* two fin bones, and what sits behind them */}
        <path d="M-7 -15V12M7 -15V12" />
        {kind === "disc" ? (
          <path d="M-15 0H15M-15 -7V7M15 -7V7" stroke="var(--signal)" strokeWidth="3" />
        ) : kind === "tbar" ? (
          <path d="M-12 -7V7M-12 0H18" stroke="var(--signal)" strokeWidth="3" />
        ) : (
          <path d="M18 0H-12M-12 0L-3 -7M-12 0L-3 7" stroke="var(--signal)" strokeWidth="3" />
        )}
      </g>
    </>
  );
}

/** The places that protocols name, none before another; the needle flat, toward the head. */
function Pit() {
  return (
    <>
      <g fill="var(--signal)" stroke="none">
        <circle cx="140" cy="52" r="4" />
        <circle cx="72" cy="84" r="4" />
        <circle cx="150" cy="108" r="4" />
      </g>
      <NeedleLine from={[214, 120]} to={[158, 109]} />
      <g transform="translate(262 24)">
        <circle r="21" fill="var(--paper)" />
        <rect x="-12" y="-4" width="24" height="8" rx="4" stroke="var(--signal)" strokeWidth="3" />
      </g>
    </>
  );
}

/** Belly up: a short cut beside the midline, closed by stitches. */
function Cut() {
  return (
    <g transform="translate(262 24)">
      <circle r="21" fill="var(--paper)" />
      <path d="M-18 6H18" strokeDasharray="3 4" strokeWidth="1" />
      <path d="M-10 -4H10" stroke="var(--signal)" strokeWidth="3" />
      <path d="M-6 -9V1M0 -9V1M6 -9V1" />
    </g>
  );
}
