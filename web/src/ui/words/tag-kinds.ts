import type { Schemas } from "@/api/client";

type Kind = Schemas["TagKindEnum"];

/** Kinds of tag in words, in the order in which crews use them. */
export const KINDS: Record<Kind, string> = {
  pit: "PIT",
  tbar: "T-bar",
  dart: "Dart, one barb",
  dart2: "Dart, two barbs",
  metal: "Metal head",
  disc: "Disc",
  acoustic: "Acoustic",
  radio: "Radio",
  satellite: "Satellite",
  archival: "Archival",
};

/** Kinds that run on a battery. */
export const POWERED: readonly Kind[] = ["acoustic", "radio", "satellite", "archival"];

export const STATES: Record<string, string> = {
  stock: "In stock",
  issued: "Handed out",
  placed: "In a fish",
  shed: "Shed",
  removed: "Taken out of a fish",
  spoiled: "Damaged",
  lost: "Lost",
  destroyed: "Destroyed",
  elsewhere: "Seen on a fish, not of this stock",
};

/** The states that a table of batches shows in columns of their own; the rest stands together. */
export const SHOWN = ["stock", "issued", "placed"] as const;
