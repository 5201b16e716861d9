import type { ReactNode } from "react";
import { FishOutline, Hand, Never } from "./FishOutline";

/** How a fish is held and lifted, and how not, readable without words (common practice, no source). */
export function HoldingCards() {
  return (
    <section className="grid gap-3 sm:grid-cols-3" aria-label="Hold and lift">
      <Card words="Level, one hand under the belly, one before the tail. Wet hands; hooks away from fingers first.">
        <FishOutline label="Held level by two hands from below">
          <Hand x={120} y={116} />
          <Hand x={242} y={100} />
        </FishOutline>
      </Card>
      <Card words="Large or heavy: in a sling or a rubber net, its whole length carried.">
        <FishOutline label="Carried in a sling with handles at both ends">
          <path d="M8 44C30 150 270 150 308 40M8 44L2 26M8 44L18 28M308 40L300 24M308 40L316 24" strokeWidth="3.5" />
        </FishOutline>
      </Card>
      <Card words="Never by the jaw, the gills or the tail alone.">
        <svg
          viewBox="0 0 320 140"
          role="img"
          aria-label="A fish hung upright by its jaw, crossed out"
          className="w-full max-w-80 text-ink"
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
        >
          <g transform="translate(170 -8) rotate(90) scale(0.46)">
            <path
              d="M20 75C40 45 110 32 170 38C220 43 250 58 270 68L304 46C296 66 296 86 304 106L270 84C250 98 215 114 165 114C105 114 45 105 20 75Z"
              strokeWidth="4"
            />
            <circle cx="50" cy="68" r="6" fill="currentColor" />
          </g>
          <path d="M134 2C134 14 144 14 146 6" strokeWidth="3.5" />
          <Never x={136} y={76} size={46} />
        </svg>
      </Card>
    </section>
  );
}

/** What holds for every needle that lets gas out; where it goes in is the protocol's word alone. */
export function VentingCard() {
  return (
    <Card words="Under water, hollow needle, slowly; stop as the fish sinks or rights itself. Never through the belly's midline, never into a stomach that hangs from the mouth.">
      <FishOutline label="Never the stomach at the mouth, never the midline of the belly; gas rises under water">
        <path d="M20 78C4 78 0 92 10 96C20 98 26 88 24 80" />
        <Never x={10} y={88} size={11} />
        <Never x={165} y={116} size={11} />
        <path d="M0 12C20 4 40 20 60 12S100 4 120 12S160 20 180 12S220 4 240 12S280 20 320 12" strokeWidth="1.5" />
        <g strokeWidth="1.5">
          <circle cx="238" cy="54" r="3" />
          <circle cx="246" cy="42" r="4" />
          <circle cx="240" cy="28" r="5" />
        </g>
      </FishOutline>
    </Card>
  );
}

/** Rig and line tension (common practice, no source). */
export function RigCards() {
  const drawing = {
    viewBox: "0 0 320 110",
    role: "img",
    className: "w-full max-w-80 text-ink",
    fill: "none",
    stroke: "currentColor",
    strokeWidth: 2,
    strokeLinecap: "round",
  } as const;
  return (
    <section className="grid gap-3 sm:grid-cols-2" aria-label="Rig and line tension">
      <Card words="Main line, swivel, leader weaker than the line, then the hook. Wet each knot, pull it tight, test it by hand. The weight sits on its own thinner link: it comes off first.">
        <svg {...drawing} aria-label="Main line, swivel with a weight on a thin link, thinner leader, hook">
          <path d="M6 30H120" strokeWidth="4" />
          <circle cx="128" cy="30" r="7" />
          <circle cx="144" cy="30" r="7" />
          <path d="M136 38V66" strokeWidth="1" strokeDasharray="4 4" />
          <path d="M128 68H144L148 92H124Z" fill="currentColor" />
          <path d="M151 30H268" strokeWidth="2" />
          <path d="M268 30H284V50C284 68 258 68 258 52L266 58" stroke="var(--signal)" strokeWidth="3.5" />
        </svg>
      </Card>
      <Card words="Drag at a quarter to a third of the weakest part, measured with a balance at the rod tip. Rod up, line never slack; give line when the fish runs, and do not pull against a run.">
        <svg {...drawing} aria-label="A bent rod, its line to a balance that shows a third of the line's strength">
          <path d="M10 100C70 96 120 70 150 22" strokeWidth="5" />
          <circle cx="42" cy="96" r="8" />
          <path d="M150 22L246 62" strokeWidth="1.5" />
          <circle cx="268" cy="70" r="24" />
          <path d="M268 70L268 50" strokeWidth="1" />
          <path d="M268 70L287 62" stroke="var(--signal)" strokeWidth="3.5" />
          <path d="M268 70m0 -20a20 20 0 0 1 18.5 12.5" stroke="var(--signal)" strokeWidth="3" />
        </svg>
      </Card>
    </section>
  );
}

function Card({ words, children }: { words: string; children: ReactNode }) {
  return (
    <figure className="border border-line bg-raised p-2">
      {children}
      <figcaption className="text-sm">{words}</figcaption>
    </figure>
  );
}
