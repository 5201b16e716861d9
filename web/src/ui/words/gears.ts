import type { Schemas } from "@/api/schemas";

export type GearCode = Schemas["Run"]["gear"];
/** Figures of a run that gears ask for. */
export type FigureCode = "distance_m" | "rods" | "nets" | "mesh_mm" | "hauls";

interface Gear {
  code: GearCode;
  label: string;
  /** Whether current flows. */
  electric: boolean;
  effort: Schemas["Effort"]["unit"];
  asks: FigureCode[];
}

/** Gears as core has them (tests/shared/gears.json holds both to the same table). */
export const GEARS: Gear[] = [
  ...(["boat", "backpack", "towbarge", "shore"] as const).map(
    (how): Gear => ({
      code: `${how}_electrofishing`,
      label: `${how === "towbarge" ? "Tow-barge" : how[0]!.toUpperCase() + how.slice(1)} electrofishing`,
      electric: true,
      effort: "current_on_s",
      asks: ["distance_m"],
    }),
  ),
  { code: "angling", label: "Angling", electric: false, effort: "rod_hours", asks: ["rods"] },
  { code: "ice_fishing", label: "Ice fishing", electric: false, effort: "rod_hours", asks: ["rods"] },
  { code: "gill_net", label: "Gill net", electric: false, effort: "net_nights", asks: ["nets", "mesh_mm"] },
  { code: "trap_net", label: "Trap net", electric: false, effort: "net_nights", asks: ["nets", "mesh_mm"] },
  { code: "fyke_net", label: "Fyke net", electric: false, effort: "net_nights", asks: ["nets", "mesh_mm"] },
  { code: "seine", label: "Seine", electric: false, effort: "hauls", asks: ["hauls", "distance_m", "mesh_mm"] },
  { code: "trawl", label: "Trawl", electric: false, effort: "metres", asks: ["distance_m", "hauls", "mesh_mm"] },
];

/** A gear by its code. */
export function gearOf(code: string): Gear {
  return GEARS.find((each) => each.code === code) ?? GEARS[0]!;
}

/** Gears in a line. */
export function gearWords(codes: readonly string[]): string {
  const words = codes.map((code) => gearOf(code).label.toLowerCase()).join(", ");
  return words[0] ? words[0].toUpperCase() + words.slice(1) : "";
}

const EFFORT_UNITS: Record<Schemas["Effort"]["unit"], string> = {
  current_on_s: "s current on",
  rod_hours: "rod-hours",
  net_nights: "net-nights",
  hauls: "hauls",
  metres: "m",
};

/** Effort in figures and unit; nothing where it is not known. */
export function effortWords(effort: Schemas["Effort"] | undefined): string {
  if (effort?.value == null) return "";
  return `${Number(effort.value.toFixed(1)).toLocaleString("en")} ${EFFORT_UNITS[effort.unit]}`;
}

/** Whether it is fished with rods, whose fights and feeding have clocks. */
export const hasRods = (code: string): boolean => gearOf(code).effort === "rod_hours";
