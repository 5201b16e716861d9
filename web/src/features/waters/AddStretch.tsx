import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";

type Kind = "zone" | "dam" | "no_go";

interface Props {
  /** Of the whole line, m. */
  lengthM: number;
  busy: boolean;
  onAdd: (zone: Schemas["ZoneRequest"]) => void;
}

/** A stretch to keep off, round a point, or one to sample as a zone, from one kilometre to another. */
export function AddStretch({ lengthM, busy, onAdd }: Props) {
  const [point, setPoint] = useState({
    kind: "no_go" as Kind,
    name: "",
    from: null as number | null,
    second: 400 as number | null,
  });
  const zone = point.kind === "zone";
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
    onAdd(fresh);
  };
  return (
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
      <Button large disabled={point.from === null || point.second === null || busy} onClick={add}>
        Add it
      </Button>
    </div>
  );
}
