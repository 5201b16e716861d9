import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useAddSite, useLayers, useNewWater, useReach, useSites, useWaters, WaterPart } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Empty, ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
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
          Add a water
        </Button>
      )}
      {waters.length === 0 && (
        <Empty>
          No water yet. A name and a point are enough to begin; its centre-line or shore can be drawn or brought in at
          any time.
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

const figure = (text: string) => (text ? Number(text) : null);
const DEGREES = { type: "number", step: "any", inputMode: "decimal", placeholder: "or empty" } as const;

/** Where something is, both figures or none. */
function PlaceFields({ errors }: { errors: Record<string, string | undefined> }) {
  return (
    <>
      <Field {...DEGREES} label="Latitude" unit="°, north" name="latitude" min={-90} max={90} error={errors.latitude} />
      <Field
        {...DEGREES}
        label="Longitude"
        unit="°, east"
        name="longitude"
        min={-180}
        max={180}
        error={errors.longitude}
      />
    </>
  );
}

function NewWater({ onClose }: { onClose: (made?: string) => void }) {
  const { membership } = useHere();
  const make = useNewWater(membership.programme);
  const errors = fieldErrors(make.error);
  const save = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
    make.mutate(
      {
        name: given.name!,
        kind: given.kind as Water["kind"],
        latitude: figure(given.latitude!),
        longitude: figure(given.longitude!),
      },
      { onSuccess: ({ id }) => onClose(id) },
    );
  };
  return (
    <Sheet
      open
      onOpenChange={() => onClose()}
      title="Add a water"
      description="A point makes a site there at once; a line or shore can follow."
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <Field label="Name" name="name" required maxLength={120} error={errors.name} />
        <Choice label="Kind" name="kind">
          <option value="lake">lake</option>
          <option value="river">river</option>
          <option value="coast">coast</option>
        </Choice>
        <PlaceFields errors={errors} />
        {make.error && (
          <div className="col-span-2">
            <ErrorMessage failure={make.error} />
          </div>
        )}
        <Button type="submit" look="ink" large className="col-span-2" disabled={make.isPending}>
          Add it
        </Button>
      </form>
    </Sheet>
  );
}

function OneWater({ water }: { water: Water }) {
  const { membership, may } = useHere();
  const { data: sites } = useSites(water.id);
  const { data: reach } = useReach(water.id);
  const layers = useLayers(membership.programme);
  return (
    <div className="py-2 pl-3">
      {sites?.length === 0 && <p className="text-muted">No site yet: an outing needs at least one.</p>}
      <ul className="flex max-h-56 flex-wrap gap-x-5 overflow-y-auto">
        {sites?.map(({ id, name, zone, river_km }) => (
          <li key={id} className="py-0.5">
            {name}
            <span className="text-sm text-muted">
              {zone && ` · ${zone}`}
              {river_km !== null && ` · km ${river_km}`}
            </span>
          </li>
        ))}
      </ul>
      {may("open_outing") && <AddSite water={water.id} />}
      <SeriesOfWater water={water.id} />
      {may("plan") && <WaterPart water={water.id} kind={water.kind} reach={reach} layers={layers} />}
    </div>
  );
}

function AddSite({ water }: { water: string }) {
  const add = useAddSite(water);
  const errors = fieldErrors(add.error);
  return (
    <form
      className="mt-2 grid max-w-3xl grid-cols-2 items-end gap-3 md:grid-cols-[2fr_1fr_1fr_1fr_auto]"
      onSubmit={(event) => {
        event.preventDefault();
        const form = event.currentTarget;
        const given = Object.fromEntries(new FormData(form)) as Record<string, string>;
        add.mutate(
          {
            name: given.name!,
            zone: given.zone!,
            latitude: figure(given.latitude!),
            longitude: figure(given.longitude!),
          },
          { onSuccess: () => form.reset() },
        );
      }}
    >
      <Field label="Name of a site" name="name" required maxLength={60} error={errors.name} />
      <Field label="Zone (optional)" name="zone" maxLength={60} />
      <PlaceFields errors={errors} />
      <Button type="submit" disabled={add.isPending}>
        Add the site
      </Button>
      {add.error && !errors.name && (
        <div className="col-span-full">
          <ErrorMessage failure={add.error} />
        </div>
      )}
    </form>
  );
}
