import type { Reach, Survey } from "./queries";
import { projection, roundLength, stretch } from "./reach-geometry";

interface Props {
  reach: Reach;
  sites: Survey["sites"];
  chosen: number | null;
  onChoose: (number: number) => void;
}

const BOX = { width: 900, height: 420 };

/** The water from above, on our own lines: zones to keep off, fixed sites with past catch, planned sites. */
export function ReachMap({ reach, sites, chosen, onChoose }: Props) {
  const { place, metresPerPixel } = projection(reach.line, BOX);
  const path = (points: readonly (readonly number[])[]) =>
    points
      .map(
        ([lon, lat], at) =>
          `${at ? "L" : "M"}${place(lon!, lat!)
            .map((each) => each.toFixed(1))
            .join(" ")}`,
      )
      .join("");
  const bar = roundLength(metresPerPixel * 160);
  const most = Math.max(1, ...reach.sites.map(({ fish }) => fish));
  return (
    <svg
      viewBox={`0 0 ${BOX.width} ${BOX.height}`}
      className="mt-2 w-full border border-line bg-raised"
      role="img"
      aria-label={`Map of ${reach.name} with ${sites.length} planned sites`}
    >
      <path
        d={path(reach.line)}
        fill={reach.kind === "lake" ? "var(--band-3)" : "none"}
        stroke="var(--data)"
        strokeWidth="3"
        strokeLinejoin="round"
      />
      {reach.zones
        .filter(({ kind }) => kind !== "zone")
        .map((zone) => (
          <path
            key={zone.name + zone.start_m}
            d={path(stretch(reach, zone.start_m, zone.end_m))}
            fill="none"
            stroke="var(--signal)"
            strokeWidth="8"
            strokeDasharray="3 3"
          >
            <title>{`${zone.name}: keep off`}</title>
          </path>
        ))}
      {reach.sites.map((site) => {
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
            <title>{`${site.name}: ${site.fish} calls in ${site.runs} runs so far`}</title>
          </circle>
        );
      })}
      {sites.map((site) => {
        const points = stretch(reach, site.start_m, site.end_m);
        const [x, y] = place(points[0]![0]!, points[0]![1]!);
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list beside offers the same to keys
          <g key={site.number} className="cursor-pointer" onClick={() => onChoose(site.number)}>
            <path d={path(points)} fill="none" stroke="var(--ink)" strokeWidth={site.number === chosen ? 11 : 7} />
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
      })}
      <g transform={`translate(${BOX.width - 190} ${BOX.height - 22})`}>
        <path d={`M0 -5V0H${bar / metresPerPixel}V-5`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <text x={bar / metresPerPixel / 2} y={14} textAnchor="middle" fontSize="13" fill="var(--ink)">
          {bar >= 1000 ? `${bar / 1000} km` : `${bar} m`}
        </text>
      </g>
      <g transform="translate(20 26)" fontSize="13" fill="var(--ink)">
        <text>N ↑</text>
        <path d="M40 -4h26" stroke="var(--ink)" strokeWidth="7" />
        <text x="72">planned site</text>
        <circle cx="170" cy="-4" r="6" fill="none" stroke="var(--ink)" />
        <text x="182">fixed site, larger with more past catch</text>
        <path d="M420 -4h26" stroke="var(--signal)" strokeWidth="8" strokeDasharray="3 3" />
        <text x="452">keep off</text>
      </g>
    </svg>
  );
}
