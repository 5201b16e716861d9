/** What the tests of this feature share: a deck as the server would send it, with core's own table. */
import type { Schemas } from "@/api/client";
import shared from "../../../tests/shared/believability.json";

export const UNITS: Schemas["Units"] = {
  length: {
    factors: { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 },
    spellings: {
      mm: "mm",
      cm: "cm",
      m: "m",
      in: "in",
      inch: "in",
      inches: "in",
      '"': "in",
      "”": "in",
      "″": "in",
      ft: "ft",
      foot: "ft",
      feet: "ft",
      "'": "ft",
    },
    compound: { ft: "in" },
  },
  mass: {
    factors: { g: 1, kg: 1000, lb: 453.59237, oz: 453.59237 / 16 },
    spellings: { g: "g", gram: "g", kg: "kg", lb: "lb", lbs: "lb", pounds: "lb", oz: "oz" },
    compound: { lb: "oz" },
  },
};

function species(code: "wal" | "yep" | "bur" | "nop", categories: [string, number][] = []): Schemas["DeckSpecies"] {
  const table = shared.species[code];
  return {
    ...table,
    mass_table: { ...table.mass_table, standard_g: [], expected_g: [] },
    code,
    scientific_name: "",
    length_type: "TL",
    categories: categories.map(([name, from_mm]) => ({ name, from_mm })),
    words: [],
    legal_mm: [null, null],
    conversions: [],
    legal_bag: null,
    smallest_to_tag_mm: null,
    longest_mm: null,
    lookalikes: [],
    special_interest: false,
    swim_bladder: "closed",
    line_is_own: false,
    last_visit_mm: [],
    last_visit_groups: [],
  };
}

export const walleye = species("wal", [
  ["stock", 250],
  ["quality", 380],
  ["preferred", 510],
  ["memorable", 630],
  ["trophy", 760],
]);

export const SPECIES = [walleye, species("yep"), species("nop"), species("bur")];

export const OUTING_ID = "01900000-0000-7000-8000-000000000001";
export const RUN_ID = "01900000-0000-7000-8000-000000000002";

export function capture(id: string, change: Partial<Schemas["Capture"]> = {}): Schemas["Capture"] {
  return {
    id,
    run: RUN_ID,
    species: "wal",
    count: 1,
    length_mm: 463,
    length_type: "TL",
    length_basis: "measured",
    length_text: "463",
    length_unit: "mm",
    mass_g: 950,
    mass_basis: "measured",
    mass_text: "950",
    mass_unit: "g",
    sex: "u",
    sex_evidence: "",
    note: "",
    questions: [],
    fish: null,
    scanned: "",
    scans: [],
    release: "",
    strength: null,
    reason: "",
    taken_to: "",
    placed: [],
    device_time: "2026-10-12T22:00:00Z",
    ...change,
  };
}

export const NO_FIGURES = {
  distance_m: null,
  rods: null,
  nets: null,
  mesh_mm: null,
  hauls: null,
  direction: "",
} as const;

export const RUN: Schemas["Run"] = {
  id: RUN_ID,
  outing: OUTING_ID,
  site: "s",
  number: 1,
  gear: "boat_electrofishing",
  volts: 180,
  amps: null,
  pulse_hz: 30,
  pulse_width_ms: 4,
  current_on_s: 0,
  ...NO_FIGURES,
  effort: { value: 0, unit: "current_on_s" },
  started_at: "2026-10-12T21:00:00Z",
  ended_at: null,
};

export function emptyDeck(): Schemas["Deck"] {
  return {
    mark: "",
    outing: {
      id: OUTING_ID,
      programme: "01900000-0000-7000-8000-000000000003",
      water: "01900000-0000-7000-8000-000000000004",
      water_name: "Ketterwick River",
      water_kind: "river",
      time_zone: "UTC",
      name: "Tonight",
      date: "2026-10-12",
      gear: "boat_electrofishing",
      gears: ["boat_electrofishing"],
      state: "open",
      length_unit: "mm",
      mass_unit: "g",
      n_runs: 1,
      n_fish: 0,
      protocol: 1,
      opened_by: null,
    },
    sites: [],
    habitats: {},
    checklists: [],
    orders: null,
    protocol: { number: 1, values: {} },
    targets: [],
    marks: { stock: [], fish: [], sites: [] },
    species: SPECIES,
    units: UNITS,
    slips: shared.slips as Schemas["Slip"][],
    runs: [],
    captures: [],
    allowances: [],
    water_readings: [],
    readings: [],
    crew: [],
    sky: null,
    handovers: [],
    quotas: [],
    photos: [],
    events: [],
    event_kinds: [],
    surgery: { version: 1, caution: "", watch_every_s: 60, steps: [] },
  };
}
