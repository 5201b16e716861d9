import { ApiError } from "@/api/client";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { AddStretch } from "./AddStretch";
import { KeepOffQuestion } from "./KeepOffQuestion";
import { type Layer, type Reach, type ReachStep, useReachStep } from "./queries";
import { WaterLine } from "./WaterLine";

interface Props {
  water: string;
  kind: string;
  reach: Reach | undefined;
  layers: Layer[];
}

/** The water itself: its line from a file or drawn, and stretches to keep off. */
export function WaterPart({ water, kind, reach, layers }: Props) {
  const step = useReachStep(water);
  const zones = reach?.zones ?? [];
  const asked = step.error instanceof ApiError && step.error.code === "keep_off_dropped" ? step.error : null;
  return (
    <details open={!reach} className="mt-3 border-t border-line pt-2">
      <summary className="cursor-pointer font-semibold">The water: its line, and where to keep off</summary>
      <WaterLine water={water} ring={kind === "lake"} layers={layers} step={step} />
      <AddStretch
        lengthM={reach?.length_m ?? 0}
        busy={step.isPending}
        onAdd={(zone) => step.mutate({ zones: [...zones, zone] })}
      />
      {zones.map((each) => (
        <p key={`${each.name} ${each.start_m}`} className="mt-1 flex items-center gap-3">
          <span className="w-24 text-sm text-muted">{each.kind === "zone" ? "zone" : "keep off"}</span>
          {each.name}, km {(each.start_m / 1000).toFixed(2)} to {(each.end_m / 1000).toFixed(2)}. {each.note}
          <Button
            className="shrink-0"
            aria-label={`Take ${each.name} out`}
            onClick={() => step.mutate({ zones: zones.filter((other) => other !== each) })}
          >
            Delete
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
