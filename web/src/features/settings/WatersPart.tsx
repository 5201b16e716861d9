import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useLayers, useReach, useSites, useWaters, WaterPart } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty, ErrorMessage } from "@/ui/Message";
import { plural } from "@/ui/words/format";
import { AddSite } from "./AddSite";
import { EditSite } from "./EditSite";
import { EditWater } from "./EditWater";
import { NewWater } from "./NewWater";
import { SeriesOfWater } from "./SeriesOfWater";

type Water = Schemas["Water"];
const SHAPES: Record<string, string> = {
  Point: "a point",
  LineString: "a line",
  Polygon: "a shore",
  "": "not drawn yet",
};

/** The programme's waters, and the sites where effort is spent. */
export function WatersPart() {
  const { membership, may } = useHere();
  const { data: waters, error } = useWaters(membership.programme);
  const [adding, setAdding] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  if (error) return <ErrorMessage failure={error} />;
  if (!waters) return <p className="text-muted">Reading the waters...</p>;
  return (
    <>
      {may("plan") && (
        <Button look="ink" large className="mt-3" onClick={() => setAdding(true)}>
          Add waterbody
        </Button>
      )}
      {waters.length === 0 && (
        <Empty>
          No water yet. A name and a point are enough to begin; its centre-line or shore can be drawn or imported at any
          time.
        </Empty>
      )}
      <ul className="mt-3 border-t border-line">
        {waters.map((water) => (
          <li key={water.id} className="border-b border-line py-2">
            <button
              type="button"
              aria-expanded={open === water.id}
              className="flex min-h-[44px] w-full cursor-pointer flex-wrap items-center gap-x-4 text-left hover:bg-wash"
              onClick={() => setOpen(open === water.id ? null : water.id)}
            >
              <strong>{water.name}</strong>
              <span className="text-muted">
                {water.kind}, {SHAPES[water.shape]}
              </span>
              <span className={`ml-auto ${water.n_sites ? "text-muted" : "text-signal"}`}>
                {water.n_sites ? plural(water.n_sites, "site") : "! no site yet"}
              </span>
            </button>
            {open === water.id && <OneWater water={water} />}
          </li>
        ))}
      </ul>
      {adding && (
        <NewWater
          onClose={(made) => {
            setAdding(false);
            if (made) setOpen(made);
          }}
        />
      )}
    </>
  );
}

function OneWater({ water }: { water: Water }) {
  const { membership, may } = useHere();
  const { data: sites } = useSites(water.id);
  const { data: reach } = useReach(water.id);
  const layers = useLayers(membership.programme);
  const [editing, setEditing] = useState(false);
  const [site, setSite] = useState<string | null>(null);
  const edited = sites?.find(({ id }) => id === site);
  return (
    <div className="py-2 pl-3">
      {may("plan") && (
        <Button className="mb-1" onClick={() => setEditing(true)}>
          Edit waterbody
        </Button>
      )}
      {/* as high before the sites are read as after: the form below must not move under a finger */}
      {!sites?.length && (
        <p className="flex min-h-[44px] items-center text-muted">
          {sites ? "No site yet: an outing needs at least one." : "Reading the sites..."}
        </p>
      )}
      <ul className="flex max-h-56 flex-wrap gap-x-5 overflow-y-auto">
        {sites?.map(({ id, name, zone, river_km }) => (
          <li key={id}>
            <button
              type="button"
              className="min-h-[44px] text-left enabled:cursor-pointer enabled:underline enabled:decoration-line enabled:underline-offset-4"
              disabled={!may("add_site")}
              aria-label={may("add_site") ? `Edit site ${name}` : undefined}
              onClick={() => setSite(id)}
            >
              {name}
              <span className="text-sm text-muted">
                {zone && ` · ${zone}`}
                {river_km !== null && ` · km ${river_km}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {may("add_site") && <AddSite water={water.id} />}
      {editing && <EditWater water={water} onClose={() => setEditing(false)} />}
      {edited && <EditSite site={edited} onClose={() => setSite(null)} />}
      <SeriesOfWater water={water.id} />
      {may("plan") && <WaterPart water={water.id} kind={water.kind} reach={reach} layers={layers} />}
    </div>
  );
}
