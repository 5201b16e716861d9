import { useRef, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { LineDrawing } from "./LineDrawing";
import { type Layer, type useReachStep, useWaters } from "./queries";

interface Props {
  water: string;
  /** A lake has a shore, which closes; a river a centre-line. */
  ring: boolean;
  layers: Layer[];
  step: ReturnType<typeof useReachStep>;
}

/** A water's line: brought in from a file, or drawn. */
export function WaterLine({ water, ring, layers, step }: Props) {
  const [turn, setTurn] = useState(false);
  const [drawing, setDrawing] = useState(false);
  const { membership } = useHere();
  const own = useWaters(membership.programme).data?.find(({ id }) => id === water);
  const at = own?.latitude == null || own.longitude == null ? null : ([own.longitude, own.latitude] as const);
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Button onClick={() => input.current?.click()}>Import centre-line or shore</Button>
        <span className="text-sm text-muted">GeoJSON, GPX, KML or CSV (lon, lat), from the mouth upward</span>
        <label className="flex min-h-9 items-center gap-2 text-sm">
          <input type="checkbox" className="size-5" checked={turn} onChange={() => setTurn(!turn)} />
          the file begins at the upper end
        </label>
        <Button aria-pressed={drawing} onClick={() => setDrawing(!drawing)}>
          Draw it
        </Button>
        <input
          ref={input}
          type="file"
          className="sr-only"
          tabIndex={-1}
          aria-label="File with the water's line"
          accept=".json,.geojson,.gpx,.kml,.csv"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) step.mutate({ file, turn });
            event.target.value = "";
          }}
        />
      </div>
      {drawing && (
        <LineDrawing
          water={water}
          at={at}
          layers={layers}
          ring={ring}
          busy={step.isPending}
          onKeep={(file) => step.mutate({ file, turn: false }, { onSuccess: () => setDrawing(false) })}
          onLeave={() => setDrawing(false)}
        />
      )}
    </>
  );
}
