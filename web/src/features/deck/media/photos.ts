import type { Schemas } from "@/api/schemas";

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

/** Addresses of pictures that lie on this device, by the photo's key: one each, however often the queue is read anew. */
const addresses = new Map<string, string>();

/** Where a photo is shown from: this device while it waits, then the server. */
export function sourceOf({ id, jpeg }: Photo, small = false): string {
  if (typeof jpeg === "string") return `data:image/jpeg;base64,${jpeg}`;
  if (!jpeg) return `/api/v1/photos/${id}.jpg${small ? "?small=true" : ""}`;
  const address = addresses.get(id) ?? URL.createObjectURL(jpeg);
  addresses.set(id, address);
  return address;
}
