import type { FigureCode } from "@/ui/words/gears";
import { figure } from "../calling/numbers";

/** Figures of a run that gears ask for, with what each may be. */
export const FIGURES: { name: FigureCode; label: string; unit: string; form: ReturnType<typeof figure> }[] = [
  { name: "distance_m", label: "Distance fished", unit: "m", form: figure(0, 100_000, "m") },
  { name: "rods", label: "Rods", unit: "", form: figure(1, 200, "rods") },
  { name: "nets", label: "Nets", unit: "", form: figure(1, 500, "nets") },
  { name: "mesh_mm", label: "Mesh, stretched", unit: "mm", form: figure(1, 500, "mm") },
  { name: "hauls", label: "Hauls", unit: "", form: figure(1, 500, "hauls") },
];
