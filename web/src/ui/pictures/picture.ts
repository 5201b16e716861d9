/** Longest side of a photo that is kept, px; the server keeps no more. */
const LONGEST = 1600;
const QUALITY = 0.85;

/**
 * A picture from the camera or a file as JPEG, upright and small: drawn anew from its pixels alone, so that no
 * position, time or maker that the camera wrote into it goes along.
 *
 * Throws where the browser cannot read it.
 */
export async function smallerJpeg(file: Blob, longest = LONGEST): Promise<Blob> {
  const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
  const share = Math.min(1, longest / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(bitmap.width * share));
  canvas.height = Math.max(1, Math.round(bitmap.height * share));
  canvas.getContext("2d")!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("no JPEG came of it"))), "image/jpeg", QUALITY),
  );
}

/** The bytes of a file as base64. */
export function base64Of(blob: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve((reader.result as string).split(",")[1] ?? "");
    reader.onerror = () => reject(reader.error ?? new Error("it could not be read"));
    reader.readAsDataURL(blob);
  });
}
