import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Field";
import { notify } from "@/ui/Notice";
import { NumberField } from "@/ui/NumberField";
import { Sheet } from "@/ui/Sheet";
import { formatTime, plural } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { editWater, takeOutWater } from "../operations/water-edit";
import { figuresOf, type ReadFigures, recordWater } from "../operations/water-record";
import { saturationHint } from "../rules/oxygen";

type Reading = Schemas["Reading"];

interface Props {
  store: DeckStore;
  view: DeckView;
  run: Schemas["Run"] | undefined;
  onClose: () => void;
}

/** What is read at the site: what the protocol asks for first, everything else on demand. What was read can be put right. */
export function WaterSheet({ store, view, run, onClose }: Props) {
  const { readings, water_readings, outing, sky } = view.document;
  const [correcting, setCorrecting] = useState<Schemas["WaterReading"] | null>(null);
  const [typed, setTyped] = useState<ReadFigures>({});
  const [all, setAll] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const shown = readings.filter(({ name, asked }) => all || asked || typed[name] != null);
  const set = (code: string, value: number | string | null) => setTyped({ ...typed, [code]: value });
  const ofRun = run && readings.some(({ asked }) => asked === "run");
  const keep = async () => {
    const beyond = readings.find((each) => isBeyond(each, typed[each.name] ?? null));
    if (beyond)
      return setProblem(
        `${beyond.title}: expected ${beyond.low} to ${beyond.high} ${beyond.unit}; got ${typed[beyond.name]}.`,
      );
    if (correcting) {
      const before = figuresOf(correcting);
      const changed = Object.entries(typed).filter(([code, value]) => value !== (before[code] ?? null));
      if (changed.length) await editWater(store, correcting.id, Object.fromEntries(changed));
    } else {
      const read = Object.entries(typed).filter(([, value]) => value !== null && value !== "");
      if (!read.length) return setProblem("Expected at least one figure.");
      await recordWater(store, Object.fromEntries(read), ofRun ? run.id : null);
    }
    onClose();
  };
  const takeOut = (reading: Schemas["WaterReading"]) => {
    void takeOutWater(store, reading, true);
    notify("Reading taken out.", () => void takeOutWater(store, reading, false));
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={correcting ? `Reading of ${formatTime(correcting.device_time, outing.time_zone)}` : "Site conditions"}
      description={
        correcting
          ? "Only what is changed here changes; an emptied figure is taken away."
          : `Fill in what was read; the rest stays empty.${ofRun ? ` Kept with run ${run.number}.` : ""}`
      }
    >
      <form
        className="grid grid-cols-2 gap-3"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        {sky && (
          <p className="col-span-2 text-sm text-muted">
            {sky.sunrise && sky.sunset
              ? `Sun from ${formatTime(sky.sunrise, outing.time_zone)} to ${formatTime(sky.sunset, outing.time_zone)}`
              : "The sun neither rises nor sets that day"}
            ; moon about {Math.round(100 * sky.moon_share)} % lit, {sky.moon}.
          </p>
        )}
        {shown.map((each) => (
          <Figure
            key={`${correcting?.id} ${each.name}`}
            reading={each}
            value={typed[each.name] ?? null}
            hint={
              each.name === "oxygen_mg_l"
                ? saturationHint(numberOf(typed.temperature_c), numberOf(typed.oxygen_mg_l))
                : undefined
            }
            onValue={(value) => set(each.name, value)}
          />
        ))}
        {!all && (
          <Button className="col-span-2" onClick={() => setAll(true)}>
            {plural(readings.length - shown.length, "more reading")}: depth, flow, wind, sky...
          </Button>
        )}
        {problem && (
          <p role="alert" className="col-span-2 text-signal">
            {problem}
          </p>
        )}
        <Button type="submit" look="ink" large className="col-span-2">
          {correcting ? "Save correction" : "Save"}
        </Button>
      </form>
      {water_readings.length > 0 && !correcting && (
        <ul aria-label="Readings so far" className="mt-4">
          {[...water_readings].reverse().map((each) => (
            <li key={each.id} className="flex items-center gap-2 border-t border-line py-1">
              <span className="min-w-0 flex-1 text-sm">
                {formatTime(each.device_time, outing.time_zone)}: {readingWords(each, readings)}
              </span>
              <Button
                onClick={() => {
                  setCorrecting(each);
                  setTyped(figuresOf(each));
                  setProblem(null);
                }}
              >
                Correct
              </Button>
              <Button onClick={() => takeOut(each)}>Delete</Button>
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}

interface FigureProps {
  reading: Reading;
  value: number | string | null;
  hint: string | undefined;
  onValue: (value: number | string | null) => void;
}

function Figure({ reading: { title, unit, choices }, value, hint, onValue }: FigureProps) {
  if (choices.length)
    return (
      <Choice label={title} value={value ?? ""} onChange={(event) => onValue(event.target.value || null)}>
        <option value="">not read</option>
        {choices.map(({ value: code, label }) => (
          <option key={code} value={code}>
            {label}
          </option>
        ))}
      </Choice>
    );
  return <NumberField live optional label={title} unit={unit} value={numberOf(value)} hint={hint} onNumber={onValue} />;
}

const numberOf = (value: number | string | null | undefined) => (typeof value === "number" ? value : null);

const isBeyond = ({ choices, low, high, kind }: Reading, value: number | string | null) =>
  typeof value === "number" &&
  !choices.length &&
  (value < low || value > high || (kind === "whole" && !Number.isInteger(value)));

/** What was read, in a line. */
export function readingWords(reading: Schemas["WaterReading"], readings: readonly Reading[]): string {
  const read = figuresOf(reading);
  return readings
    .flatMap(({ name, title, unit }) =>
      read[name] == null ? [] : [`${title.toLowerCase()} ${read[name]} ${unit}`.trim()],
    )
    .join(", ");
}
