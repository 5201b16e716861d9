import type { PlannedSite, Reach } from "./queries";
import { roundLength } from "./reach-geometry";

interface Props {
  reach: Reach;
  sites: readonly PlannedSite[];
  chosen: number | null;
  onChoose: (number: number) => void;
}

const WIDTH = 900;
const LEFT = 16;

/** The water pulled straight: kilometres, zones, what to keep off, past catch above, planned sites on the line. */
export function ReachStrip({ reach, sites, chosen, onChoose }: Props) {
  const x = (metres: number) => LEFT + (metres / reach.length_m) * (WIDTH - 2 * LEFT);
  const step = roundLength(reach.length_m / 5);
  const most = Math.max(1, ...reach.sites.map(({ fish }) => fish));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 128`}
      className="w-full"
      role="img"
      aria-label={`${reach.name} pulled straight, ${(reach.length_m / 1000).toFixed(1)} km`}
    >
      {reach.zones
        .filter(({ kind }) => kind === "zone")
        .map((zone, place) => (
          <g key={zone.name}>
            <rect
              x={x(zone.start_m)}
              y={62}
              width={x(zone.end_m) - x(zone.start_m)}
              height={26}
              fill={`var(--band-${(place % 2) * 2 + 2})`}
            />
            <text
              x={(x(zone.start_m) + x(zone.end_m)) / 2}
              y={106}
              textAnchor="middle"
              fontSize="13"
              fill="var(--muted)"
            >
              {zone.name}
            </text>
          </g>
        ))}
      <line x1={x(0)} x2={x(reach.length_m)} y1={75} y2={75} stroke="var(--data)" strokeWidth="3" />
      {reach.sites.map((site) => (
        <g key={site.id}>
          <line
            x1={x(site.along_m)}
            x2={x(site.along_m)}
            y1={60}
            y2={60 - 40 * (site.fish / most)}
            stroke="var(--muted)"
            strokeWidth="5"
          >
            <title>{`${site.name}: ${site.fish} fish so far`}</title>
          </line>
        </g>
      ))}
      {reach.zones
        .filter(({ kind }) => kind !== "zone")
        .map((zone) => (
          <g key={zone.name + zone.start_m}>
            <rect
              x={x(zone.start_m)}
              y={58}
              width={Math.max(4, x(zone.end_m) - x(zone.start_m))}
              height={34}
              fill="var(--signal)"
            />
            <text x={x(zone.start_m)} y={54} fontSize="13" fill="var(--signal)" textAnchor="middle">
              {zone.name}
            </text>
          </g>
        ))}
      {sites.map((site) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the list beside offers the same to keys
        <g key={site.number} className="cursor-pointer" onClick={() => onChoose(site.number)}>
          <rect
            x={x(site.start_m)}
            y={site.number === chosen ? 64 : 68}
            width={Math.max(3, x(site.end_m) - x(site.start_m))}
            height={site.number === chosen ? 22 : 14}
            fill="var(--ink)"
          />
        </g>
      ))}
      {Array.from({ length: Math.floor(reach.length_m / step) + 1 }, (_, at) => at * step).map((metres) => (
        <g key={metres}>
          <line x1={x(metres)} x2={x(metres)} y1={108} y2={114} stroke="var(--ink)" />
          <text x={x(metres)} y={126} textAnchor="middle" fontSize="13" fill="var(--ink)">
            {metres === 0 ? "km 0" : metres / 1000}
          </text>
        </g>
      ))}
      <text x={LEFT} y={14} fontSize="13" fill="var(--muted)">
        fish so far by fixed site (highest {most.toLocaleString("en")})
      </text>
    </svg>
  );
}
