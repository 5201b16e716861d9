import type { ComponentType } from "react";
import type { Selection } from "@/features/selection";

/** The questions a biologist asks, in the order in which they stand. */
export const GROUPS = [
  "Size and condition",
  "Abundance",
  "Age and growth",
  "Survival and harvest",
  "Movement",
  "After release",
  "Health",
] as const;

export interface FindingProps {
  selection: Selection & { species: string };
  onChange: (part: Partial<Selection>) => void;
}

/** How one kind of finding is shown. */
export interface FindingScreen {
  /** As the server names it. */
  kind: string;
  title: string;
  group: (typeof GROUPS)[number];
  /** Its place in the group. */
  order: number;
  Finding: ComponentType<FindingProps>;
}

/** Every kind's, each declared by a component in the folder `kinds`. */
const modules = import.meta.glob<{ screen: FindingScreen }>(["./kinds/*.tsx", "!**/*.test.tsx"], { eager: true });
export const FINDINGS = Object.values(modules)
  .flatMap(({ screen }) => (screen ? [screen] : []))
  .sort((a, b) => GROUPS.indexOf(a.group) - GROUPS.indexOf(b.group) || a.order - b.order);
