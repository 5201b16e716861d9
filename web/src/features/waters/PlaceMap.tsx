import { MapFrame } from "./MapFrame";
import type { Layer } from "./queries";
import { Layers } from "./ReachMap";
import { around } from "./reach-geometry";

interface Props {
  /** Longitude and latitude as they are typed. */
  point: readonly [number, number];
  layers: Layer[];
  /** The water that the point belongs to, where it has a line. */
  water?: string;
}

/** Where a position lies that is being typed: beside its water, or with the ground about it. */
export function PlaceMap({ point, layers, water }: Props) {
  const own = layers.find((each) => each.water === water);
  const extent = own ? [...own.line, point] : around(point);
  return (
    <MapFrame label="Position as typed" points={extent}>
      {(place) => {
        const [x, y] = place(point[0], point[1]);
        return (
          <>
            <Layers layers={layers} place={place} />
            <circle cx={x} cy={y} r="8" fill="var(--signal)" stroke="var(--paper)" strokeWidth="2" />
          </>
        );
      }}
    </MapFrame>
  );
}
