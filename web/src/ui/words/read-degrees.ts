type Axis = "latitude" | "longitude";

const SIDES = { latitude: { N: 1, S: -1 }, longitude: { E: 1, O: 1, W: -1 } } as const;
const MOST = { latitude: 90, longitude: 180 } as const;
const SIGNS: [RegExp, string][] = [
  [/[−–]/g, "-"],
  [/[′’‘´`]/g, "'"],
  [/''|[″”“]/g, '"'],
  [/º/g, "°"],
];

/**
 * A latitude or longitude as people write it: 44.9021, 44,9021, 44° 54.1' N, N 44 54 7.6, -31 12 15. Null where nothing was
 * typed; a message where it cannot be read one way only.
 */
export function readDegrees(typed: string, axis: Axis): { value: number } | { message: string } | null {
  let text = SIGNS.reduce((so, [sign, plain]) => so.replace(sign, plain), typed).trim();
  if (!text) return null;
  const sides = SIDES[axis] as Record<string, number>;
  const expected = {
    message: `Expected degrees, such as 44.9021 or 44° 54.1' ${axis === "latitude" ? "N" : "E"}; got "${typed.trim()}".`,
  };
  const letter = /^([NSEWO])(?=[\s\d-])|([NSEWO])$/i.exec(text);
  const side = letter && sides[(letter[1] ?? letter[2])!.toUpperCase()];
  if (letter && side === undefined)
    return {
      message: `${letter[0].toUpperCase()} is no side of a ${axis}: expected ${Object.keys(sides).join(" or ")}.`,
    };
  if (letter) text = text.replace(letter[0], "").trim();
  const sign = text.startsWith("-") ? -1 : 1;
  if (sign < 0 && side) return { message: "Expected a minus or a letter for the side, not both." };
  const parts = text
    .replace(/^[+-]\s*/, "")
    .split(/[°'"\s]+/)
    .filter(Boolean)
    .map((part) => (/^\d+([.,]\d+)?$/.test(part) ? Number(part.replace(",", ".")) : Number.NaN));
  const [whole = Number.NaN, minutes = 0, seconds = 0] = parts;
  const split = parts.length > 1;
  if (!parts.length || parts.length > 3 || parts.some(Number.isNaN)) return expected;
  if (split && (!Number.isInteger(whole) || (parts.length === 3 && !Number.isInteger(minutes)))) return expected;
  if (minutes >= 60 || seconds >= 60) return { message: "Expected minutes and seconds below 60." };
  const value = sign * (side ?? 1) * (whole + minutes / 60 + seconds / 3600);
  if (Math.abs(value) > MOST[axis]) return { message: `Expected a ${axis} of at most ${MOST[axis]}°; got ${whole}°.` };
  return { value: Number(value.toFixed(7)) };
}
