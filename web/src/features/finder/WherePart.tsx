import { useEffect, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Layers, MapFrame } from "@/features/waters";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import type { Draft } from "./draft";
import { useWords } from "./words";

interface Props {
  address: string;
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
}

/** A touch on the map is good to so many metres. */
const TOUCH_M = 500;
const MAP = { width: 420, height: 360 };

/** Where the fish was met: by the phone, by touching a map, or in words. */
export function WherePart({ address, draft, onChange }: Props) {
  const { say } = useWords();
  const [finding, setFinding] = useState<"" | "finding" | "refused">("");
  const [map, setMap] = useState(false);
  const here = () => {
    setFinding("finding");
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        const { latitude: lat, longitude: lon, accuracy } = coords;
        onChange({ position: { lat, lon, error_m: Math.round(accuracy), by: "phone" } });
        setFinding("");
      },
      () => setFinding("refused"),
      { enableHighAccuracy: true, timeout: 20_000 },
    );
  };
  const { position } = draft;
  return (
    <fieldset className="mt-4">
      <legend className="pb-1 text-base font-semibold">{say("where")}</legend>
      <div className="flex flex-wrap gap-2">
        {"geolocation" in navigator && <Button onClick={here}>{say("where-here")}</Button>}
        <Button aria-expanded={map} onClick={() => setMap(!map)}>
          {say("where-map")}
        </Button>
      </div>
      <p role="status" className="pt-1 text-sm text-muted empty:hidden">
        {finding === "finding" && say("where-finding")}
        {finding === "refused" && !position && say("where-refused")}
        {position?.by === "phone" && say("where-position", { m: position.error_m })}
        {position?.by === "map" && say("where-touched")}
      </p>
      {position && <Button onClick={() => onChange({ position: null })}>{say("where-clear")}</Button>}
      {map && (
        <PlaceOnMap
          address={address}
          place={position}
          onPlace={(lon, lat) => onChange({ position: { lat, lon, error_m: TOUCH_M, by: "map" } })}
        />
      )}
      <div className="mt-2">
        <Field
          label={say("where-words")}
          hint={say("where-words-hint")}
          maxLength={200}
          value={draft.place_text}
          onChange={({ target }) => onChange({ place_text: target.value })}
        />
      </div>
    </fieldset>
  );
}

interface MapProps {
  address: string;
  place: { lat: number; lon: number } | null;
  onPlace: (lon: number, lat: number) => void;
}

function PlaceOnMap({ address, place: chosen, onPlace }: MapProps) {
  const { say } = useWords();
  const [waters, setWaters] = useState<Schemas["PublicWater"][]>([]);
  useEffect(() => {
    const params = { params: { path: { address } } };
    answer(api.GET("/api/v1/public/pages/{address}/waters", params)).then(setWaters, () => setWaters([]));
  }, [address]);
  const points = waters.flatMap(({ line }) => line);
  if (!points.length) return null;
  return (
    <>
      <p className="pt-1 text-sm text-muted">{say("where-map-hint")}</p>
      <MapFrame
        label={say("where-map")}
        points={points}
        box={MAP}
        words={{ nearer: say("map-nearer"), farther: say("map-farther"), whole: say("map-whole") }}
        onClick={onPlace}
      >
        {(place) => (
          <>
            <Layers layers={waters} place={place} />
            {waters.map(({ name, line }) => (
              <Name key={name} name={name} at={middleOf(line, place)} />
            ))}
            {chosen && <Here at={place(chosen.lon, chosen.lat)} />}
          </>
        )}
      </MapFrame>
    </>
  );
}

/** A water's name, over the middle of its line. */
function Name({ name, at: [x, y] }: { name: string; at: [number, number] }) {
  return (
    <text
      x={x}
      y={y}
      fontSize="13"
      textAnchor="middle"
      fill="var(--ink)"
      stroke="var(--raised)"
      strokeWidth="3"
      paintOrder="stroke"
    >
      {name}
    </text>
  );
}

function middleOf(line: number[][], place: (lon: number, lat: number) => [number, number]): [number, number] {
  const [lon, lat] = line[Math.floor(line.length / 2)]!;
  return place(lon!, lat!);
}

function Here({ at: [x, y] }: { at: [number, number] }) {
  return <circle cx={x} cy={y} r="9" fill="var(--signal)" stroke="var(--paper)" strokeWidth="3" />;
}
