import { type FormEvent, type PointerEvent, useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { MapFrame } from "./MapFrame";
import type { Layer } from "./queries";
import { Layers } from "./ReachMap";
import { around, svgPath } from "./reach-geometry";

type Point = [number, number];

interface Props {
  water: string;
  /** Where the water lies, as far as it is known. */
  at: readonly [number, number] | null;
  layers: Layer[];
  /** Whether the line goes once round, as a lake's shore does. */
  ring: boolean;
  busy: boolean;
  onKeep: (line: File) => void;
  onLeave: () => void;
}

/** A water's line drawn by hand: points set by a click or typed, dragged to where they belong, kept as GeoJSON. */
export function LineDrawing({ water, at, layers, ring, busy, onKeep, onLeave }: Props) {
  const [points, setPoints] = useState<Point[]>([]);
  const [typed, setTyped] = useState("");
  const [dragged, setDragged] = useState<number | null>(null);
  const read = readPoint(typed);
  const own = layers.find((each) => each.water === water);
  const ground = own ? own.line : at ? around(at) : layers.flatMap(({ line }) => line);
  const extent = ground.length ? ground : points.slice(0, 2);
  const line = ring && points.length > 2 ? [...points, points[0]!] : points;
  const add = (event: FormEvent) => {
    event.preventDefault();
    if (!read) return;
    setPoints([...points, read]);
    setTyped("");
  };
  const keep = () => onKeep(new File([JSON.stringify({ type: "LineString", coordinates: line })], "drawn.geojson"));
  return (
    <section aria-label="Drawing the line" className="mt-3">
      <p className="text-sm text-muted">
        {ring ? "Go once round the shore" : "Begin at the mouth and go upstream, along the middle of the water"}: click
        for each bend, drag a point to move it. Zoom in for a true line; a track from the boat is truer still.
      </p>
      {extent.length > 1 ? (
        <MapFrame
          label={`Drawing, ${points.length} points`}
          points={extent}
          onClick={(lon, lat) => setPoints([...points, [lon, lat]])}
        >
          {(place, toMap) => (
            <>
              <Layers layers={layers} place={place} />
              {at && !own && <Mark at={place(at[0], at[1])} />}
              <path d={svgPath(line, place)} fill="none" stroke="var(--data)" strokeWidth="3" strokeLinejoin="round" />
              {points.map(([lon, lat], at) => {
                const [x, y] = place(lon, lat);
                return (
                  // biome-ignore lint/a11y/noStaticElementInteractions: a point can be typed, and taken out, by key
                  <circle
                    key={at}
                    data-point={at + 1}
                    className="cursor-move touch-none"
                    cx={x}
                    cy={y}
                    r={at === 0 ? 9 : 7}
                    fill={at === 0 ? "var(--ink)" : "var(--raised)"}
                    stroke="var(--ink)"
                    strokeWidth="2"
                    onClick={(event) => event.stopPropagation()}
                    onPointerDown={(event: PointerEvent<SVGCircleElement>) => {
                      event.stopPropagation();
                      event.currentTarget.setPointerCapture(event.pointerId);
                      setDragged(at);
                    }}
                    onPointerMove={(event: PointerEvent<SVGCircleElement>) =>
                      dragged === at && setPoints(points.with(at, toMap(event)))
                    }
                    onPointerUp={() => setDragged(null)}
                  >
                    <title>{`Point ${at + 1}: ${lon.toFixed(5)}, ${lat.toFixed(5)}`}</title>
                  </circle>
                );
              })}
            </>
          )}
        </MapFrame>
      ) : (
        <p className="mt-2">No water has a line yet: type the first two points, and the map shows where they lie.</p>
      )}
      <form onSubmit={add} className="mt-2 flex flex-wrap items-end gap-3">
        <div className="w-64">
          <Field
            label="A point as longitude, latitude (degrees)"
            value={typed}
            placeholder="-31.20415, 44.90211"
            error={typed && !read ? "Expected two numbers, longitude first." : undefined}
            onChange={(event) => setTyped(event.target.value)}
          />
        </div>
        <Button large type="submit" disabled={!read}>
          Add the point
        </Button>
        <Button large disabled={!points.length} onClick={() => setPoints(points.slice(0, -1))}>
          Take the last point out
        </Button>
        <Button large look="ink" disabled={line.length < 2 || busy} onClick={keep}>
          Keep it as the line
        </Button>
        <Button large onClick={onLeave}>
          Leave it as it was
        </Button>
      </form>
    </section>
  );
}

/** The water's own point. */
function Mark({ at: [x, y] }: { at: [number, number] }) {
  return <path d={`M${x - 9} ${y}h18M${x} ${y - 9}v18`} stroke="var(--signal)" strokeWidth="2.5" />;
}

/** "-31.2, 44.9" as a point; null where it is none. */
export function readPoint(text: string): Point | null {
  const parts = text.trim().split(/\s*[,;]\s*|\s+/);
  const [lon, lat] = parts.map(Number);
  if (parts.length !== 2 || !parts.every(Boolean)) return null;
  return Math.abs(lon!) <= 180 && Math.abs(lat!) <= 90 ? [lon!, lat!] : null;
}
