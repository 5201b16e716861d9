import type { Schemas } from "@/api/client";
import { formatDay, formatMm } from "@/ui/words/format";
import { ribbonOf } from "./ribbon";

type Encounter = Schemas["Encounter"];

const [WIDTH, HEIGHT, MIDDLE, MARGIN] = [960, 130, 56, 70];
const KINDS: Record<Encounter["kind"], string> = {
  capture: "caught by a crew",
  card: "card of a volunteer",
  return: "reported by a finder",
  gate: "heard at a gate",
};

/** A fish's life as a ribbon along time, as thick as the fish is long; a shape for each kind of meeting, an end where it ended. */
export function FishRibbon({ encounters }: { encounters: Encounter[] }) {
  const { points, path, ticks } = ribbonOf(encounters, WIDTH, MIDDLE, MARGIN);
  const kinds = [...new Set(encounters.map(({ kind }) => kind))];
  const [first, last] = [points[0], points.at(-1)];
  const gone = last && ["dead", "retained", "lost"].includes(last.met.disposition ?? "");
  return (
    <figure className="overflow-x-auto">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full min-w-[36rem]"
        role="img"
        aria-label={`Met ${points.length} times`}
      >
        {ticks.map(({ x, text }) => (
          <g key={text}>
            <path d={`M${x} 18V94`} stroke="var(--line)" />
            <text x={x} y="13" textAnchor="middle" fontSize="12" fill="var(--muted)">
              {text}
            </text>
          </g>
        ))}
        <path d={path} fill="var(--band-4)" stroke="var(--data)" />
        {points.map(({ x, met }) => (
          <Meeting key={met.source} x={x} met={met} />
        ))}
        {gone && <path d={`M${last.x + 14} ${MIDDLE - 30}V${MIDDLE + 30}`} stroke="var(--ink)" strokeWidth="4" />}
        {first && <End x={first.x} met={first.met} />}
        {last && points.length > 1 && <End x={last.x} met={last.met} />}
      </svg>
      <figcaption className="flex flex-wrap gap-x-5 text-sm text-muted">
        {kinds.map((kind) => (
          <span key={kind}>
            <svg viewBox="-8 -8 16 16" className="mr-1 inline-block size-3.5" aria-hidden="true">
              <Shape kind={kind} />
            </svg>
            {KINDS[kind]}
          </span>
        ))}
        <span>Thickness: length; between measured lengths it is drawn as if it grew evenly.</span>
        {gone && <span>Bar: dead, retained or lost.</span>}
      </figcaption>
    </figure>
  );
}

function Meeting({ x, met }: { x: number; met: Encounter }) {
  return (
    <g transform={`translate(${x} ${MIDDLE})`}>
      <title>{`${formatDay(met.at)}: ${KINDS[met.kind]}${met.length_mm === null ? "" : `, ${formatMm(met.length_mm)}`}`}</title>
      <Shape kind={met.kind} />
    </g>
  );
}

function Shape({ kind }: { kind: Encounter["kind"] }) {
  const paint = { fill: "var(--ink)", stroke: "var(--paper)", strokeWidth: 1.5 };
  if (kind === "card") return <path d="M0-7L7 0L0 7L-7 0Z" {...paint} />;
  if (kind === "return") return <path d="M0-7L7 6H-7Z" {...paint} />;
  if (kind === "gate") return <rect x="-6" y="-6" width="12" height="12" {...paint} />;
  return <circle r="6" {...paint} />;
}

/** Day and length at an end of the ribbon. */
function End({ x, met }: { x: number; met: Encounter }) {
  return (
    <text x={x} y="112" textAnchor="middle" fontSize="13" fill="var(--ink)">
      {formatDay(met.at)}
      {met.length_mm !== null && (
        <tspan x={x} dy="15" fill="var(--muted)">
          {formatMm(met.length_mm)}
        </tspan>
      )}
    </text>
  );
}
