/** The figures behind a picture: columns with their units, and rows. */
export interface PictureData {
  columns: string[];
  rows: (string | number | null)[][];
}

const SCALE = 2;

/** Saves a picture as SVG, as PNG on the page's ground, or its figures as CSV. */
export async function savePicture(
  kind: "svg" | "png" | "csv",
  label: string,
  data: PictureData,
  svg: string,
  size: { width: number; height: number },
  ground: string,
): Promise<void> {
  const name = `${label
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .slice(0, 60)
    .replace(/-$/, "")}.${kind}`;
  if (kind === "csv") return download(new Blob([toCsv(data)], { type: "text/csv" }), name);
  const drawing = new Blob([svg], { type: "image/svg+xml" });
  if (kind === "svg") return download(drawing, name);
  download(await pngOf(drawing, size, ground), name);
}

/** CSV with a text that a spreadsheet would run as a formula made harmless. */
export function toCsv({ columns, rows }: PictureData): string {
  const cell = (value: string | number | null) => {
    if (value === null) return "";
    const text = typeof value === "string" && /^[=+\-@\t\r]/.test(value) ? `'${value}` : String(value);
    return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return [columns, ...rows].map((row) => `${row.map(cell).join(",")}\r\n`).join("");
}

/** An SVG drawn as PNG on a ground, twice its size. */
export async function pngOf(
  drawing: Blob,
  { width, height }: { width: number; height: number },
  ground: string,
): Promise<Blob> {
  const address = URL.createObjectURL(drawing);
  try {
    const image = new Image();
    image.src = address;
    await image.decode();
    const canvas = document.createElement("canvas");
    canvas.width = width * SCALE;
    canvas.height = height * SCALE;
    const context = canvas.getContext("2d")!;
    context.fillStyle = ground;
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise<Blob>((resolve, reject) =>
      canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("This browser could not make the PNG.")))),
    );
  } finally {
    URL.revokeObjectURL(address);
  }
}

function download(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
