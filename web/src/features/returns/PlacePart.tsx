import { Layers, MapFrame, useLayers } from "@/features/waters";
import { useHere } from "@/session";
import { formatDay } from "@/ui/words/format";
import type { WholeReport } from "./queries";

type Point = readonly [number, number];

/** Where it was found, and where it was last let go, on the programme's waters. */
export function PlacePart({ report: { lat, lon, last_known } }: { report: WholeReport }) {
  const { membership } = useHere();
  const layers = useLayers(membership.programme);
  if (lat === null || lon === null) return null;
  const found: Point = [lon, lat];
  const last: Point | null =
    last_known?.lat != null && last_known.lon != null ? [last_known.lon, last_known.lat] : null;
  const ground = layers.flatMap(({ line }) => line);
  return (
    <>
      <MapFrame label="Where it was found and last let go" points={[...ground, found, ...(last ? [last] : [])]}>
        {(place) => {
          const [x, y] = place(...found);
          const from = last && place(...last);
          return (
            <>
              <Layers layers={layers} place={place} />
              {from && (
                <>
                  <path
                    d={`M${from[0]} ${from[1]}L${x} ${y}`}
                    stroke="var(--ink)"
                    strokeWidth="2"
                    strokeDasharray="6 5"
                  />
                  <rect
                    x={from[0] - 9}
                    y={from[1] - 9}
                    width="18"
                    height="18"
                    fill="var(--data)"
                    stroke="var(--paper)"
                    strokeWidth="2"
                  />
                </>
              )}
              <circle cx={x} cy={y} r="11" fill="var(--signal)" stroke="var(--paper)" strokeWidth="2" />
            </>
          );
        }}
      </MapFrame>
      <p className="text-sm text-muted">
        <span className="text-signal" aria-hidden="true">
          ●
        </span>{" "}
        found
        {last && last_known?.met && (
          <>
            {" "}
            <span aria-hidden="true">■</span> last let go on {formatDay(last_known.met)}
          </>
        )}
      </p>
    </>
  );
}
