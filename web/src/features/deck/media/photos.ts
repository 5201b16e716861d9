import type { Schemas } from "@/api/schemas";
import { localPicture } from "@/ui/pictures/local-picture";

/** A photo as the deck knows it; while it waits to be sent, with its picture, base64 where it was carried here. */
export type Photo = Schemas["Photo"] & { jpeg?: Blob | string };
export type Shows = Photo["shows"];

export const SHOWS: readonly [Shows, string][] = [
  ["fish", "The fish"],
  ["mark", "Mark or scar"],
  ["mouth", "Mouth"],
  ["fin", "Fins"],
  ["otolith", "Otolith or scale"],
  ["place", "Place"],
  ["person", "Person"],
];

/** Where a photo is shown from: this device while it waits, then the server. */
export function sourceOf({ id, jpeg }: Photo, small = false): string {
  return jpeg ? localPicture(id, jpeg) : `/api/v1/photos/${id}.jpg${small ? "?small=true" : ""}`;
}
