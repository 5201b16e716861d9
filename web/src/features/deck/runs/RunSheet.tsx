import { zodResolver } from "@hookform/resolvers/zod";
import { useForm } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Sheet } from "@/ui/Sheet";
import { formatTime } from "@/ui/words/format";
import { type FigureCode, GEARS, gearOf } from "@/ui/words/gears";
import { readClock, readMinutes } from "@/ui/words/read-clock";
import { z } from "@/ui/z";
import { asText, figure, figureIn } from "../calling/numbers";
import type { DeckStore, DeckView } from "../document/deck-store";
import { editRun } from "../operations/run-edit";
import { startRun } from "../operations/run-start";
import { beyondOrders, goalNow } from "../rules/orders";
import { FIGURES } from "./figures";

/** A time of the day; empty where a run has none, or none yet. */
const clock = z.string().refine((text) => text === "" || readMinutes(text) !== null, "Write it as 21:40.");

const form = z.object({
  ...(Object.fromEntries(FIGURES.map((each) => [each.name, each.form])) as Record<
    FigureCode,
    ReturnType<typeof figure>
  >),
  direction: z.enum(["", "up", "down", "along", "across"]),
  gear: z.enum(GEARS.map(({ code }) => code)),
  site: z.string().min(1, "Choose where this run is."),
  volts: figure(0, 2000, "V"),
  amps: figure(0, 200, "A"),
  pulse_hz: figure(0, 1000, "Hz"),
  pulse_width_ms: figure(0, 1000, "ms"),
  current_on_s: figure(0, 86_400, "s"),
  started: clock,
  ended: clock,
});

const SETTINGS = [
  { name: "volts", label: "Volts", unit: "V, peak" },
  { name: "amps", label: "Amps", unit: "A, peak" },
  { name: "pulse_hz", label: "Pulse rate", unit: "Hz" },
  { name: "pulse_width_ms", label: "Pulse width", unit: "ms" },
] as const;

interface Props {
  store: DeckStore;
  view: DeckView;
  /** The run to edit; without one a new run is started. */
  run?: Schemas["Run"];
  onClose: () => void;
}

/** Starting a run, or putting its settings right. */
export function RunSheet({ store, view, run, onClose }: Props) {
  const { runs, sites, outing } = view.document;
  const before = run ?? runs.at(-1);
  const next = sites[(sites.findIndex(({ id }) => id === before?.site) + 1) % sites.length];
  const goal = goalNow(view.document);
  const electro = view.document.orders?.electro;
  const { register, handleSubmit, formState, watch } = useForm({
    resolver: zodResolver(form),
    defaultValues: {
      site: (run ? run.site : next?.id) ?? "",
      volts: asText(before?.volts),
      amps: asText(before?.amps),
      pulse_hz: asText(before ? before.pulse_hz : electro?.pulse_hz),
      pulse_width_ms: asText(before ? before.pulse_width_ms : electro?.pulse_width_ms),
      current_on_s: asText(run?.current_on_s ?? 0),
      gear: run?.gear ?? (before && outing.gears.includes(before.gear) ? before.gear : outing.gear),
      direction: run?.direction ?? ("" as const),
      distance_m: asText(run?.distance_m),
      rods: asText(run ? run.rods : before?.rods),
      nets: asText(run ? run.nets : before?.nets),
      mesh_mm: asText(run ? run.mesh_mm : before?.mesh_mm),
      hauls: asText(run?.hauls),
      started: run ? formatTime(run.started_at, outing.time_zone) : "",
      ended: run?.ended_at ? formatTime(run.ended_at, outing.time_zone) : "",
    },
  });
  const { errors } = formState;
  const typed = watch();
  const { electric, asks } = gearOf(typed.gear);
  // with no signal nobody knows the checklists of another gear with current: those are chosen when the outing is made
  const offered = [...outing.gears.map(gearOf), ...GEARS.filter((each) => !each.electric)];
  const beyond = beyondOrders(view.document, {
    volts: figureIn(typed.volts),
    amps: figureIn(typed.amps),
    pulse_hz: figureIn(typed.pulse_hz),
  });
  const save = handleSubmit(async ({ site, gear, current_on_s, started, ended, ...settings }) => {
    if (run) {
      // only what was changed: another tablet may have said the rest meanwhile
      const now = { ...settings, site, current_on_s: current_on_s ?? 0, ...timesOf(run, outing, started, ended) };
      const changed = Object.entries(now).filter(([name, value]) => value !== run[name as keyof typeof now]);
      if (changed.length) await editRun(store, run, Object.fromEntries(changed));
    } else await startRun(store, site, gear, settings);
    onClose();
  });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={run ? `Run ${run.number}` : "Start a run"}
      description={
        run
          ? "What is changed here keeps its history."
          : before || !electro
            ? "The settings are those of the run before."
            : "The pulse is the plan's; write what the box shows for volts and amps."
      }
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3" noValidate>
        <div className="col-span-2">
          <Choice label="Site" error={errors.site?.message} {...register("site")}>
            {sites.map((site) => (
              <option key={site.id} value={site.id}>
                {[site.name, site.river_km != null && `km ${site.river_km}`, site.zone].filter(Boolean).join(" · ")}
              </option>
            ))}
          </Choice>
        </div>
        <Choice label="Gear" disabled={Boolean(run)} {...register("gear")}>
          {[...new Set(offered)].map(({ code, label }) => (
            <option key={code} value={code}>
              {label}
            </option>
          ))}
        </Choice>
        <Choice label="Direction" {...register("direction")}>
          <option value="">not recorded</option>
          <option value="up">upstream</option>
          <option value="down">downstream</option>
          <option value="along">along the shore</option>
          <option value="across">across</option>
        </Choice>
        {run && (
          <>
            <Field label="Started" unit="local time" error={errors.started?.message} {...register("started")} />
            {run.ended_at && (
              <Field label="Ended" unit="local time" error={errors.ended?.message} {...register("ended")} />
            )}
          </>
        )}
        {FIGURES.filter(({ name }) => asks.includes(name)).map(({ name, label, unit }) => (
          <Field
            key={name}
            label={label}
            unit={unit}
            inputMode="decimal"
            error={errors[name]?.message}
            hint={name === "distance_m" && !run ? "Or at the end of the run." : undefined}
            {...register(name)}
          />
        ))}
        {electric && (
          <>
            {SETTINGS.map(({ name, label, unit }) => (
              <Field
                key={name}
                label={label}
                unit={unit}
                inputMode="decimal"
                error={errors[name]?.message ?? beyond[name]}
                {...register(name)}
              />
            ))}
            {run && (
              <Field
                label="Current on"
                unit="s"
                inputMode="decimal"
                error={errors.current_on_s?.message}
                hint="Put the box's own counter here if it differs."
                {...register("current_on_s")}
              />
            )}
            {goal && electro && (
              <p className="col-span-2">
                The plan at about {Math.round(goal.goal.us_cm)} µS/cm: up to{" "}
                <strong>{Math.min(goal.goal.volts, goal.goal.most_volts)} V</strong>, about {goal.goal.amps} A.
                {!goal.read && " The water has not been read yet."}
              </p>
            )}
            <p className="col-span-2 text-sm text-muted">
              Start low and raise only until fish are drawn and recover quickly. Local code, permit and the trained
              leader decide.
            </p>
          </>
        )}
        <Button type="submit" look="ink" large disabled={formState.isSubmitting} className="col-span-2">
          {run ? "Save run" : "Start run"}
        </Button>
      </form>
    </Sheet>
  );
}

/** The times of a run as they were typed; one that reads as before stays to the second. */
function timesOf(run: Schemas["Run"], { time_zone }: { time_zone: string }, started: string, ended: string) {
  const moved = (at: string, text: string) =>
    text === formatTime(at, time_zone) ? at : (readClock(text, at, time_zone) ?? at);
  return {
    started_at: moved(run.started_at, started),
    ...(run.ended_at && ended ? { ended_at: moved(run.ended_at, ended) } : {}),
  };
}
