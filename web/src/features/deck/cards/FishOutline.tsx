import type { ReactNode } from "react";

/** A fish in our own lines, its head to the left, for what is drawn on it; 320 by 140. */
export function FishOutline({ label, children }: { label: string; children?: ReactNode }) {
  return (
    <svg
      viewBox="0 0 320 140"
      role="img"
      aria-label={label}
      className="w-full max-w-80 text-ink"
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      <path d="M20 75C40 45 110 32 170 38C220 43 250 58 270 68L304 46C296 66 296 86 304 106L270 84C250 98 215 114 165 114C105 114 45 105 20 75Z" />
      <circle cx="50" cy="68" r="4.5" fill="currentColor" />
      <path d="M84 48C94 65 94 90 82 106" />
      <path d="M20 76L36 79" />
      <path d="M96 82C114 80 122 90 120 100C107 98 99 92 96 82Z" />
      <path d="M106 36L114 17L124 24L134 19L143 27L152 25L158 36" />
      <path d="M170 38L180 22L208 32L214 44" />
      <path d="M112 111L106 128L130 114" />
      <path d="M194 112L200 128L226 105" />
      <path d="M94 70C150 64 210 66 268 75" strokeDasharray="3 6" strokeWidth="1" />
      {children}
    </svg>
  );
}

/** A needle from where a hand is to where it goes in. */
export function NeedleLine({ from, to }: { from: readonly [number, number]; to: readonly [number, number] }) {
  const [x, y] = to;
  const angle = Math.atan2(y - from[1], x - from[0]);
  const barb = (turn: number) => `${x - 9 * Math.cos(angle + turn)} ${y - 9 * Math.sin(angle + turn)}`;
  return (
    <g stroke="var(--signal)" strokeWidth="3">
      <path d={`M${from.join(" ")}L${to.join(" ")}`} />
      <path d={`M${barb(0.5)}L${x} ${y}L${barb(-0.5)}`} />
    </g>
  );
}

/** Not so: a cross over a place. */
export function Never({ x, y, size = 14 }: { x: number; y: number; size?: number }) {
  return (
    <path
      d={`M${x - size} ${y - size}L${x + size} ${y + size}M${x + size} ${y - size}L${x - size} ${y + size}`}
      stroke="var(--signal)"
      strokeWidth="5"
    />
  );
}

/** A cupped hand under a fish. */
export function Hand({ x, y }: { x: number; y: number }) {
  return (
    <path
      d={`M${x - 24} ${y - 10}C${x - 22} ${y + 8} ${x - 10} ${y + 14} ${x} ${y + 14}C${x + 12} ${y + 14} ${x + 22} ${y + 8} ${x + 24} ${y - 8}M${x - 2} ${y + 14}L${x - 2} ${y + 24}M${x + 12} ${y + 12}L${x + 12} ${y + 24}`}
      strokeWidth="3.5"
    />
  );
}
