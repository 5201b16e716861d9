import { useQuery } from "@tanstack/react-query";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Tick } from "@/ui/Tick";
import { plural, whole } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { editRun } from "../operations/run-edit";
import type { Tracking } from "./use-track";

interface Props {
  store: DeckStore;
  view: DeckView;
  run: Schemas["Run"];
  tracking: Tracking;
}

/** The run's line: recorded while it goes, its length as the distance fished, where fish were let go. */
export function RunTrack({ store, view, run, tracking }: Props) {
  const outing_id = view.document.outing.id;
  const { data, isError } = useQuery({
    queryKey: ["tracks", outing_id],
    queryFn: () => answer(api.GET("/api/v1/outings/{outing_id}/tracks", { params: { path: { outing_id } } })),
    retry: false,
    refetchInterval: 60_000,
    staleTime: 0,
  });
  const track = data?.find((each) => each.run === run.id);
  const metres = track ? Math.round(track.length_m) : 0;
  const here = view.document.captures.filter((each) => each.run === run.id).map(({ id }) => id);
  const released = view.document.events
    .filter(
      ({ kind, capture, details }) => kind === "let_go" && capture && here.includes(capture) && details.lat != null,
    )
    .map(({ details }): [number, number] => [Number(details.lat), Number(details.lon)]);
  return (
    <section aria-label="Track" className="mt-3 border-t border-line pt-2">
      <div className="flex flex-wrap items-center gap-x-4">
        <Tick label="Record the track of runs" checked={tracking.on} onChange={tracking.set} />
        {tracking.on && tracking.problem && <span className="text-signal">! no position: {tracking.problem}</span>}
        {isError && <span className="text-muted">The track so far is available when online.</span>}
        {track && (
          <>
            <span>
              <strong>{whole(metres)} m</strong>
              {track.gaps > 0 && `, ${plural(track.gaps, "gap")} left out`}
              {track.left_out > 0 && `, ${plural(track.left_out, "position")} that cannot be`}
            </span>
            {track.off_water > 0 && (
              <span className="text-signal">
                ! {plural(track.off_water, "position")} up to {whole(Math.round(track.off_water_m))} m off the water:
                the receiver or the water's drawing is wrong
              </span>
            )}
            {metres > 0 && metres !== run.distance_m && (
              <Button onClick={() => void editRun(store, run, { distance_m: metres })}>
                Take it as distance fished
              </Button>
            )}
            {metres > 0 && metres === run.distance_m && <span className="text-muted">the distance fished</span>}
          </>
        )}
      </div>
      {track && track.pieces.length > 0 && <TrackMap track={track} released={released} />}
    </section>
  );
}

const WIDE = 640;
const HIGH = 260;
const EDGE = 18;
const M_PER_DEGREE = 111_320;

interface MapProps {
  track: Schemas["Track"];
  released: readonly [number, number][];
}

/** North is up, the water as it is drawn; pieces between gaps stand apart; a ring where a fish was let go; a bar says how long is long. */
function TrackMap({ track: { pieces, water }, released }: MapProps) {
  const places = [...pieces.flat().map(([lat, lon]) => [lat!, lon!] as const), ...released];
  const middle = places.reduce((sum, [lat]) => sum + lat, 0) / places.length;
  const east = (lon: number) => lon * M_PER_DEGREE * Math.cos((middle * Math.PI) / 180);
  const xs = places.map(([, lon]) => east(lon));
  const ys = places.map(([lat]) => lat * M_PER_DEGREE);
  const [left, right, top] = [Math.min(...xs), Math.max(...xs), Math.max(...ys)];
  const span = Math.max(right - left, (top - Math.min(...ys)) * (WIDE / HIGH), 20);
  const px = (WIDE - 2 * EDGE) / span;
  const at = (lat: number, lon: number) =>
    [WIDE / 2 + (east(lon) - (left + right) / 2) * px, EDGE + (top - lat * M_PER_DEGREE) * px] as const;
  const points = (line: readonly (readonly number[])[]) => line.map(([lat, lon]) => at(lat!, lon!).join(",")).join(" ");
  const bar = [5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000].findLast((metres) => metres * px < WIDE / 4) ?? 5;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH + 2 * EDGE}`}
      role="img"
      aria-label={`The run's line, ${plural(pieces.length, "piece")}, ${plural(released.length, "fish", "fish")} let go along it`}
      className="mt-2 w-full max-w-2xl border border-line bg-raised"
    >
      {water.areas.map((area) => (
        <polygon key={String(area[0])} points={points(area)} fill="var(--wash)" stroke="var(--line)" />
      ))}
      {water.islands.map((island) => (
        <polygon key={String(island[0])} points={points(island)} fill="var(--raised)" stroke="var(--line)" />
      ))}
      {water.lines.map((line) => (
        <polyline
          key={String(line[0])}
          points={points(line)}
          fill="none"
          stroke="var(--wash)"
          strokeWidth="16"
          strokeLinecap="round"
        />
      ))}
      {pieces.map((piece) => (
        <polyline
          key={String(piece[0])}
          points={points(piece)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2.5"
          strokeLinejoin="round"
        />
      ))}
      {released.map(([lat, lon], place) => {
        const [x, y] = at(lat, lon);
        return <circle key={place} cx={x} cy={y} r="5" fill="none" stroke="var(--signal)" strokeWidth="2" />;
      })}
      <g stroke="var(--muted)" fill="var(--muted)" fontSize="12">
        <path d={`M${EDGE} ${HIGH + EDGE + 6}h${bar * px}`} strokeWidth="2" />
        <text x={EDGE + bar * px + 6} y={HIGH + EDGE + 10} stroke="none">
          {bar} m
        </text>
        <text x={WIDE - EDGE} y={HIGH + EDGE + 10} stroke="none" textAnchor="end">
          north is up; shaded: water as drawn; ring: let go
        </text>
      </g>
    </svg>
  );
}
