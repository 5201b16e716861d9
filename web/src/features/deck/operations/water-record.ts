import { v7 as uuidv7 } from "uuid";
import type { Schemas } from "@/api/client";
import type { OperationKind } from "@/offline/operation";
import { put } from "@/offline/rows";
import type { DeckStore } from "../deck-store";

type Reading = Schemas["WaterReading"];

const kind: OperationKind<Record<string, unknown>, Reading> = {
  kind: "water.record",
  apply: (deck, { shown }) => ({ ...deck, water_readings: put(deck.water_readings, shown) }),
  describe: () => "water reading",
  subject: ({ id }) => id,
};
export default kind;

export type WaterFigures = Pick<
  Reading,
  "temperature_c" | "ambient_us_cm" | "specific_us_cm" | "oxygen_mg_l" | "secchi_m"
>;

export function recordWater(store: DeckStore, figures: WaterFigures): Promise<void> {
  const id = uuidv7();
  const outing = store.view.deck.outing.id;
  return store.add({
    id,
    kind: kind.kind,
    row: { outing, ...figures },
    shown: { id, outing, run: null, device_time: store.now(), ...figures },
  });
}
