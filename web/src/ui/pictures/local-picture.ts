/** Addresses of pictures that lie on this device, by the photo's key: one each, however often the queue is read anew. */
const addresses = new Map<string, string>();

/** Where a picture that waits to be sent is shown from: the device itself, or its bytes as base64 where they were carried here. */
export function localPicture(id: string, jpeg: Blob | string): string {
  if (typeof jpeg === "string") return `data:image/jpeg;base64,${jpeg}`;
  const address = addresses.get(id) ?? URL.createObjectURL(jpeg);
  addresses.set(id, address);
  return address;
}
