import { Link } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import type { Schemas } from "@/api/client";
import { TimeMap } from "@/features/map";
import { useLayers } from "@/features/waters";
import { useHere } from "@/session";
import { plural, whole } from "@/ui/words/format";
import { Asked } from "../Asked";
import { Footing, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["WhereMetFinding"];

const MOST_PLACES = 12;
const dayOf = (at: number) => new Date(at * 1000).toISOString().slice(0, 10);

/** Where marked fish were met: a map that plays through time. */
function WhereMetFinding({ selection }: FindingProps) {
  return (
    <Asked<Finding> kind="where-met" selection={selection} words="Laying out the map...">
      {(finding, stale) => <Told finding={finding} selection={selection} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, stale }: Omit<FindingProps, "onChange"> & { finding: Finding; stale: boolean }) {
  const { membership, may } = useHere();
  const layers = useLayers(membership.programme);
  const [chosen, setChosen] = useState<string | null>(null);
  const { points, fish, kinds, places, legs } = finding;
  const name = (place: number) =>
    place < 0 ? "a place that is no site" : `${places[place]!.name}, ${places[place]!.water}`;
  const at = chosen === null ? -1 : fish.indexOf(chosen);
  const to = `/api/v1/programmes/${membership.programme}/encounters`;
  const seen = useMemo(
    () => layers.filter(({ line }) => line.length > 1 && near(line, points.lon, points.lat)),
    [layers, points],
  );
  return (
    <>
      <Sentence finding={finding} stale={stale} />
      <TimeMap
        // of other encounters it begins at their end again
        key={`${finding.species.code} ${finding.n}`}
        label={`Where ${finding.species.name} were met, ${plural(finding.n, "encounter", "encounters")}`}
        met={points}
        legs={legs}
        kinds={kinds}
        layers={seen}
        chosen={at < 0 ? null : at}
        onChoose={(of) => setChosen(of === null ? null : fish[of]!)}
        followed={<Followed finding={finding} of={at} name={name} onLeave={() => setChosen(null)} />}
        data={() => ({
          columns: ["fish", "met", "day", "latitude (°)", "longitude (°)", "error (m)", "place"],
          rows: points.at.map((time, row) => [
            fish[points.fish[row]!]!,
            kinds[points.kind[row]!]!,
            dayOf(time),
            points.lat[row]!,
            points.lon[row]!,
            points.error_m[row]!,
            name(points.place[row]!),
          ]),
        })}
      />
      {may("export_rows") && (
        <p className="flex flex-wrap items-center gap-x-4 text-sm text-muted">
          All of it for other maps:
          {["geojson", "kml", "gpx"].map((form) => (
            <a
              key={form}
              className="inline-flex min-h-[44px] items-center underline underline-offset-2"
              href={`${to}.${form}?species=${selection.species}`}
              download
            >
              {form === "geojson" ? "GeoJSON" : form.toUpperCase()}
            </a>
          ))}
        </p>
      )}
      <div className="mt-3 max-w-xl">
        <table className="h-fit w-full text-left">
          <caption className="pb-1 text-left font-semibold">
            Places{" "}
            {places.length > MOST_PLACES && (
              <span className="text-sm font-normal text-muted">
                the first {MOST_PLACES} of {places.length}
              </span>
            )}
          </caption>
          <thead className="text-sm text-muted">
            <tr>
              <th>Site</th>
              <th className="pl-3 text-right">Encounters</th>
              <th className="pl-3 text-right">Fish</th>
            </tr>
          </thead>
          <tbody>
            {places.slice(0, MOST_PLACES).map(({ name: site, water, encounters, fish: n }) => (
              <tr key={`${site} ${water}`} className="border-t border-line">
                <td className="py-1">
                  {site} <span className="text-muted">{water}</span>
                </td>
                <td className="text-right">{whole(encounters)}</td>
                <td className="text-right">{whole(n)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Footing finding={finding} selection={selection} kind="where-met" ofCaptures={false} />
    </>
  );
}

interface FollowedProps {
  finding: Finding;
  /** Place of the fish among all. */
  of: number;
  name: (place: number) => string;
  onLeave: () => void;
}

/** Each time that a fish was met. */
function Followed({ finding: { points, fish, kinds }, of, name, onLeave }: FollowedProps) {
  if (of < 0) return null;
  const rows = points.fish.flatMap((each, row) => (each === of ? [row] : []));
  return (
    <section aria-label="Fish followed">
      <h2 className="font-semibold">Met {plural(rows.length, "time", "times")}</h2>
      <ol>
        {rows.map((row) => (
          <li key={row} className="border-t border-line py-0.5 text-sm">
            <span className="tabular-nums">{dayOf(points.at[row]!)}</span> {name(points.place[row]!)},{" "}
            {kinds[points.kind[row]!]} <span className="text-muted">(± {whole(points.error_m[row]!)} m)</span>
          </li>
        ))}
      </ol>
      <div className="flex gap-4">
        <Link
          to="/fish/$fish"
          params={{ fish: fish[of]! }}
          className="inline-flex min-h-[44px] items-center underline underline-offset-4"
        >
          All of this fish
        </Link>
        <button type="button" className="min-h-[44px] cursor-pointer underline underline-offset-4" onClick={onLeave}>
          Follow none
        </button>
      </div>
    </section>
  );
}

const WITHIN_DEGREES = 0.05;

/** Whether a water's line comes near any encounter: others are no ground for this map. */
function near(line: readonly number[][], lons: readonly number[], lats: readonly number[]): boolean {
  const [west, east] = [Math.min(...line.map(([lon]) => lon!)), Math.max(...line.map(([lon]) => lon!))];
  const [south, north] = [Math.min(...line.map(([, lat]) => lat!)), Math.max(...line.map(([, lat]) => lat!))];
  return lons.some(
    (lon, at) =>
      lon > west - WITHIN_DEGREES &&
      lon < east + WITHIN_DEGREES &&
      lats[at]! > south - WITHIN_DEGREES &&
      lats[at]! < north + WITHIN_DEGREES,
  );
}

export const screen: FindingScreen = {
  kind: "where-met",
  title: "Where met",
  group: "Movement",
  order: 2,
  Finding: WhereMetFinding,
};
