import type { Schemas } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import type { DeckStore, DeckView } from "../document/deck-store";
import { type Event, lastOf } from "../handling/events";
import { setResistance } from "../operations/unit-resistance";
import { ambientNow, goalNow } from "../rules/orders";
import { powerAchieved } from "../rules/power";

interface Props {
  store: DeckStore;
  view: DeckView;
  run: Schemas["Run"];
  events: Event[];
}

/** The boat's resistance by the volts and amps that were read last; one touch puts it into the control box (where it differs by more
 * than 5 %: ours, no source). */
export function ResistanceLine({ store, view: { document: deck }, run, events }: Props) {
  const { may } = useHere();
  const read = lastOf(events, "power")?.details;
  const [volts, amps] = [Number(read?.volts ?? run.volts ?? 0), Number(read?.amps ?? run.amps ?? 0)];
  const unit = deck.orders?.electro?.unit;
  const now = goalNow(deck);
  if (!unit || !now || !volts || !amps) return null;
  const { r100_ohm } = powerAchieved(volts, amps, now.goal.volts * now.goal.amps, ambientNow(deck));
  if (r100_ohm === null || Math.abs(r100_ohm / unit.r100_ohm - 1) <= 0.05) return null;
  const before = unit.r100_ohm;
  const rounded = Number(r100_ohm.toPrecision(3));
  return (
    <p className="mt-3 flex flex-wrap items-center gap-3 border-t border-line pt-2">
      R100 as read: {rounded} Ω; settings are reckoned with {before} Ω.
      {may("calibrate_unit") && (
        <Button
          large
          onClick={() => {
            void setResistance(store, unit.id, rounded);
            notify(
              `${unit.name}: R100 ${rounded} Ω instead of ${before} Ω.`,
              () => void setResistance(store, unit.id, before),
            );
          }}
        >
          Update {unit.name}
        </Button>
      )}
    </p>
  );
}
