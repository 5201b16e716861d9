import type { ReactNode } from "react";
import type { Row } from "../rules/protocol";
import { FishOutline } from "./FishOutline";

const RED = { stroke: "var(--signal)", strokeWidth: 3 } as const;

/** What each sign of barotrauma looks like. */
const DRAWN: Record<string, ReactNode> = {
  "tight-belly": <path {...RED} d="M100 110C130 140 200 138 220 104" />,
  "stomach-out": <path {...RED} d="M20 77C0 72 -4 96 10 100C24 102 30 88 26 80" fill="var(--paper)" />,
  eyes: <circle {...RED} cx="47" cy="66" r="13" />,
  bubbles: (
    <g {...RED} strokeWidth={2}>
      <circle cx="50" cy="68" r="9" />
      <circle cx="47" cy="65" r="2.5" />
      <circle cx="54" cy="71" r="2" />
      <circle cx="126" cy="26" r="3" />
      <circle cx="190" cy="30" r="3" />
      <circle cx="110" cy="92" r="3" />
    </g>
  ),
  scales: (
    <g {...RED} strokeWidth={2}>
      {[130, 150, 170, 190, 210].map((x) => (
        <path key={x} d={`M${x} 56L${x + 9} 48L${x + 8} 60M${x - 6} 80L${x + 3} 72L${x + 2} 84`} />
      ))}
    </g>
  ),
  gills: <path {...RED} d="M82 104V114M88 102V118M76 106V112M86 52C95 68 95 88 85 102" />,
  vent: <path {...RED} d="M184 113C180 124 192 126 190 134C198 136 202 126 194 120" />,
};

/** The protocol's signs with a drawing and the other words that crews use for each. */
export function SignDrawings({ signs }: { signs: readonly Row[] }) {
  return (
    <ul aria-label="What the signs look like" className="grid grid-cols-2 gap-2 sm:grid-cols-4">
      {signs.map(({ code, word, also }) => (
        <li key={String(code)} className="border border-line bg-raised p-1 text-sm leading-tight">
          {DRAWN[String(code)] && <FishOutline label={String(word)}>{DRAWN[String(code)]}</FishOutline>}
          <strong>{String(word)}</strong>
          {also && <span className="block text-muted">also: {String(also)}</span>}
        </li>
      ))}
    </ul>
  );
}
