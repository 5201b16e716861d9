import type { Schemas } from "@/api/schemas";

/** A photo as the deck knows it; while it waits to be sent, with its picture as base64. */
export type Photo = Schemas["Photo"] & { jpeg?: string };
export type Shows = Photo["shows"];

export const SHOWS: readonly [Shows, string][] = [
  ["fish", "The fish"],
  ["mark", "Mark or scar"],
  ["mouth", "Mouth"],
  ["fin", "Fins"],
  ["otolith", "Otolith or scale"],
  ["place", "Place"],
];

/** Where a photo is shown from: this device while it waits, then the server. */
export const sourceOf = ({ id, jpeg }: Photo, small = false): string =>
  jpeg ? `data:image/jpeg;base64,${jpeg}` : `/api/v1/photos/${id}.jpg${small ? "?small=true" : ""}`;
