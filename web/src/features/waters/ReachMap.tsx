import type { ReactNode } from "react";
import { MapFrame, type Place } from "./MapFrame";
import type { Layer, PlannedSite, Reach } from "./queries";
import { pointAt, stretch, svgPath } from "./reach-geometry";

interface Props {
  reach: Reach;
  layers: Layer[];
  sites: readonly PlannedSite[];
  chosen: number | null;
  onChoose: (number: number) => void;
}

/** The water from above, on our own lines: zones to keep off, fixed sites with past catch, planned sites. */
export function ReachMap({ reach, layers, sites, chosen, onChoose }: Props) {
  return (
    <>
      <MapFrame label={`Map of ${reach.name} with ${sites.length} planned sites`} points={reach.line}>
        {(place) => {
          const path = (points: readonly (readonly number[])[]) => svgPath(points, place);
          return (
            <>
              <Layers layers={layers.filter(({ water }) => water !== reach.water)} place={place} />
              <path
                d={path(reach.line)}
                fill={reach.kind === "lake" ? "var(--band-3)" : "none"}
                stroke="var(--data)"
                strokeWidth="3"
                strokeLinejoin="round"
              />
              <KeepOff reach={reach} place={place} />
              <FixedSites reach={reach} place={place} />
              <PlannedSites reach={reach} sites={sites} chosen={chosen} onChoose={onChoose} place={place} />
            </>
          );
        }}
      </MapFrame>
      <Legend />
    </>
  );
}

interface Drawn {
  reach: Reach;
  place: Place;
}

function KeepOff({ reach, place }: Drawn) {
  return reach.zones
    .filter(({ kind }) => kind !== "zone")
    .map((zone) => {
      // its name stands beside it, since the stretch itself may be a dot on the whole map
      const [lon, lat] = pointAt(reach, (zone.start_m + zone.end_m) / 2);
      const [x, y] = place(lon!, lat!);
      return (
        <g key={zone.name + zone.start_m}>
          <path
            d={svgPath(stretch(reach, zone.start_m, zone.end_m), place)}
            fill="none"
            stroke="var(--signal)"
            strokeWidth="8"
            strokeDasharray="3 3"
          />
          <text x={x - 12} y={y - 8} textAnchor="end" fontSize="13" fill="var(--signal)">
            {zone.name}
          </text>
        </g>
      );
    });
}

function FixedSites({ reach, place }: Drawn) {
  const most = Math.max(1, ...reach.sites.map(({ fish }) => fish));
  return reach.sites.map((site) => {
    const [x, y] = place(site.lon, site.lat);
    return (
      <circle
        key={site.id}
        cx={x}
        cy={y}
        r={3 + 9 * Math.sqrt(site.fish / most)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.2"
      >
        <title>{`${site.name}: ${site.fish} fish in ${site.runs} runs so far`}</title>
      </circle>
    );
  });
}

type Planned = Drawn & {
  sites: Props["sites"];
  chosen: number | null;
  onChoose: (site: number) => void;
};

function PlannedSites({ reach, sites, chosen, onChoose, place }: Planned) {
  return sites.map((site) => {
    const points = stretch(reach, site.start_m, site.end_m);
    const [x, y] = place(points[0]![0]!, points[0]![1]!);
    return (
      // biome-ignore lint/a11y/noStaticElementInteractions: the list beside offers the same to keys
      <g key={site.number} className="cursor-pointer" onClick={() => onChoose(site.number)}>
        <path
          d={svgPath(points, place)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={site.number === chosen ? 11 : 7}
        />
        <text
          x={x + 9}
          y={y - 7}
          fontSize="14"
          fontWeight="600"
          fill="var(--ink)"
          stroke="var(--raised)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {site.number}
        </text>
      </g>
    );
  });
}

function Legend() {
  return (
    <ul className="mt-1 flex flex-wrap gap-x-6 text-sm text-muted" aria-label="What the map shows">
      <li>
        <Sample>
          <path d="M0 7h24" stroke="var(--ink)" strokeWidth="7" />
        </Sample>
        planned site
      </li>
      <li>
        <Sample>
          <circle cx="12" cy="7" r="6" fill="none" stroke="var(--ink)" />
        </Sample>
        fixed site, larger with more past catch
      </li>
      <li>
        <Sample>
          <path d="M0 7h24" stroke="var(--signal)" strokeWidth="8" strokeDasharray="3 3" />
        </Sample>
        keep off
      </li>
      <li>North is up. Ctrl and wheel, or + and −, bring it nearer; drag it.</li>
    </ul>
  );
}

function Sample({ children }: { children: ReactNode }) {
  return (
    <svg viewBox="0 0 24 14" className="mr-1.5 inline-block h-3.5 w-6" aria-hidden="true">
      {children}
    </svg>
  );
}

/** The programme's other waters, thin, as ground for what is shown or drawn. */
export function Layers({ layers, place }: { layers: Pick<Layer, "name" | "kind" | "line">[]; place: Place }) {
  return layers.map(({ name, kind, line }) => (
    <path
      key={name}
      d={svgPath(line, place)}
      fill={kind === "lake" ? "var(--wash)" : "none"}
      stroke="var(--line)"
      strokeWidth="2"
    >
      <title>{name}</title>
    </path>
  ));
}
