import { useRef, useState } from "react";
import { ApiError } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { NumberField } from "@/ui/NumberField";
import { KeepOffQuestion } from "./KeepOffQuestion";
import { LineDrawing } from "./LineDrawing";
import { type Layer, type Reach, type ReachStep, type Survey, useReachStep } from "./queries";

type Kind = "zone" | "dam" | "no_go";

/** The water itself: its line from a file or drawn, and stretches to keep off. */
export function WaterPart({ survey, reach, layers }: { survey: Survey; reach: Reach | undefined; layers: Layer[] }) {
  const step = useReachStep(survey.water);
  const lengthM = reach?.length_m ?? 0;
  const zones = reach?.zones ?? [];
  const [turn, setTurn] = useState(false);
  const [drawing, setDrawing] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const [point, setPoint] = useState({
    kind: "no_go" as Kind,
    name: "",
    from: null as number | null,
    second: 400 as number | null,
  });
  const zone = point.kind === "zone";
  const asked = step.error instanceof ApiError && step.error.code === "keep_off_dropped" ? step.error : null;
  const add = () => {
    const from = (point.from ?? 0) * 1000;
    const second = point.second ?? 0;
    const fresh = {
      kind: point.kind,
      name: point.name || (zone ? "Zone" : "Keep out"),
      start_m: zone ? from : Math.max(0, from - second),
      end_m: zone ? second * 1000 : Math.min(lengthM, from + second),
      note: "",
    };
    step.mutate({ zones: [...zones, fresh] });
  };
  return (
    <details open={!reach} className="mt-3 border-t border-line pt-2">
      <summary className="cursor-pointer font-semibold">The water: its line, and where to keep off</summary>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <Button onClick={() => input.current?.click()}>Bring in a centre-line or shore</Button>
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
          water={survey.water}
          layers={layers}
          ring={survey.water_kind === "lake"}
          busy={step.isPending}
          onKeep={(file) => step.mutate({ file, turn: false }, { onSuccess: () => setDrawing(false) })}
          onLeave={() => setDrawing(false)}
        />
      )}
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <div className="w-40">
          <Choice
            label="A stretch to"
            value={point.kind}
            onChange={(event) =>
              setPoint({
                ...point,
                kind: event.target.value as Kind,
                second: event.target.value === "zone" ? null : 400,
              })
            }
          >
            <option value="no_go">keep off</option>
            <option value="dam">keep off, a dam</option>
            <option value="zone">sample as a zone</option>
          </Choice>
        </div>
        <div className="w-44">
          <Field
            label="Called"
            value={point.name}
            onChange={(event) => setPoint({ ...point, name: event.target.value })}
          />
        </div>
        <div className="w-24">
          <NumberField
            live
            label={zone ? "From" : "At"}
            unit="km"
            optional
            value={point.from}
            onNumber={(from) => setPoint({ ...point, from })}
          />
        </div>
        <div className="w-32">
          <NumberField
            live
            label={zone ? "To" : "Stand-off"}
            unit={zone ? "km" : "m"}
            optional
            value={point.second}
            onNumber={(second) => setPoint({ ...point, second })}
          />
        </div>
        <Button large disabled={point.from === null || point.second === null || step.isPending} onClick={add}>
          Add it
        </Button>
      </div>
      {zones.map((each) => (
        <p key={`${each.name} ${each.start_m}`} className="mt-1 flex items-center gap-3">
          <span className="w-24 text-sm text-muted">{each.kind === "zone" ? "zone" : "keep off"}</span>
          {each.name}, km {(each.start_m / 1000).toFixed(2)} to {(each.end_m / 1000).toFixed(2)}. {each.note}
          <Button
            aria-label={`Take ${each.name} out`}
            onClick={() => step.mutate({ zones: zones.filter((other) => other !== each) })}
          >
            Take out
          </Button>
        </p>
      ))}
      {asked && step.variables && "zones" in step.variables ? (
        <KeepOffQuestion
          message={asked.message}
          busy={step.isPending}
          onConfirm={(reason) => step.mutate({ zones: zonesOf(step.variables), confirmed: true, reason })}
          onLeave={step.reset}
        />
      ) : (
        step.error && <ErrorMessage failure={step.error} />
      )}
    </details>
  );
}

/** The zones that were asked for in the step before. */
function zonesOf(step: ReachStep | undefined) {
  return step && "zones" in step ? step.zones : [];
}
