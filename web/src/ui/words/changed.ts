/** Units by the end of a field's name, as the record writes them. */
const UNITS: Record<string, string> = {
  mm: "mm",
  g: "g",
  s: "s",
  m: "m",
  c: "°C",
  v: "V",
  hz: "Hz",
  ms: "ms",
  mg_l: "mg/L",
  us_cm: "µS/cm",
};

/** A field of a change in words: "length_mm" is length, "details.n" is n. */
export function fieldWords(name: string): string {
  if (name === "deleted_at") return "taken out";
  const last = name.split(".").at(-1)!;
  return withoutUnit(last).replaceAll("_", " ");
}

/** A field's value with its unit. */
export function valueWords(name: string, value: unknown): string {
  if (value === null || value === undefined || value === "") return "nothing";
  if (Array.isArray(value)) return value.map((each) => valueWords(name, each)).join(", ");
  if (typeof value === "object") return JSON.stringify(value);
  const unit = unitOf(name);
  return unit && typeof value === "number" ? `${value} ${UNITS[unit]}` : String(value);
}

function unitOf(name: string): string | undefined {
  return Object.keys(UNITS).find((unit) => name.endsWith(`_${unit}`));
}

function withoutUnit(name: string): string {
  const unit = unitOf(name);
  return unit ? name.slice(0, -unit.length - 1) : name;
}
