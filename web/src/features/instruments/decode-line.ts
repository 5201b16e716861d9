import tables from "./line-tables.gen.json";
import type { InstrumentReading } from "./readings";

/** What a line says. */
export type Said = Pick<InstrumentReading, "kind" | "text" | "values" | "stable">;

interface Named {
  name: string;
  title: string;
  silent_after_s: number | null;
}
type Frames = Named & { how: "frame"; line: string; header: string; countries: number[] };
type Figures = Named & {
  how: "figure";
  line: string;
  kind: "length" | "mass";
  units: Record<string, number>;
  most: number;
};
type Readings = Named & { how: "readings"; begins: string; part: string; readings: Record<string, [number, number]> };
type Sentences = Named & {
  how: "sentences";
  sentences: Record<string, [number, number, number, string]>;
  hdop: [string, number, string];
  degrees: string;
};
export type Format = Frames | Figures | Readings | Sentences;

/** How each instrument's lines are read, from core's decoders. */
export const FORMATS = tables.instruments as unknown as readonly Format[];

/** A line is none of this instrument's, or was cut off or changed on its way. */
export class Garbled extends Error {}

/** What a line of an instrument says, null where nothing of use; throws Garbled. Held to core by tests/shared/instrument-lines.json. */
export function decodeLine(format: Format, line: string): Said | null {
  if (format.how === "frame") return decodeFrame(format, line);
  if (format.how === "figure") return decodeFigure(format, line);
  if (format.how === "readings") return decodeReadings(format, line);
  return decodeSentence(format, line);
}

/** ISO 11785, FDX-B: a header, then bytes with the lowest bit first and a 1 behind each; 8 of the code, 2 of its CRC. */
function decodeFrame({ line: pattern, header, countries }: Frames, line: string): Said {
  const hex = match(pattern, line)?.[1];
  if (!hex) throw garbled("Expected F and 32 hexadecimal digits", line);
  const bits = BigInt(`0x${hex}`).toString(2).padStart(128, "0");
  const groups = Array.from({ length: 13 }, (_, n) => bits.slice(header.length + 9 * n, header.length + 9 * n + 9));
  if (!bits.startsWith(header) || groups.some((group) => group[8] !== "1"))
    throw garbled("The frame was read badly", line);
  const data = groups.slice(0, 8).map((group) => group.slice(0, 8));
  const crc = groups.slice(8, 10).map((group) => group.slice(0, 8));
  if (lowestFirst(crc.join("")) !== BigInt(crcOf(data.join("")))) throw garbled("The checksum does not fit", line);
  const code = lowestFirst(data.join(""));
  const country = Number((code >> 38n) & 0x3ffn);
  if (!countries.includes(country)) throw garbled(`${country} is no country and no manufacturer`, line);
  const identifier = code & ((1n << 38n) - 1n);
  return {
    kind: "pit",
    text: `${String(country).padStart(3, "0")}${String(identifier).padStart(12, "0")}`,
    values: {},
    stable: true,
  };
}

const lowestFirst = (bits: string) => BigInt(`0b${[...bits].reverse().join("")}`);

/** x^16 + x^12 + x^5 + 1 reflected, from 0: as core/tags/pit.py. */
function crcOf(bits: string): number {
  let crc = 0;
  for (const bit of bits) crc = (crc >> 1) ^ ((crc ^ Number(bit)) & 1 ? 0x8408 : 0);
  return crc;
}

function decodeFigure({ line: pattern, kind, units, most }: Figures, line: string): Said {
  const found = match(pattern, checked(line));
  const factor = found && units[found[3]!];
  if (!found || !factor) throw garbled(`Expected a ${kind} in ${Object.keys(units).join(", ")}`, line);
  const value = Number(found[2]) * factor;
  if (value > most) throw garbled(`Expected at most ${most}`, line);
  return { kind, text: "", values: { [kind]: Number(value.toFixed(3)) }, stable: found[1] === "=" };
}

function decodeReadings({ begins, part, readings }: Readings, line: string): Said {
  const body = checked(line);
  if (!body.startsWith(begins)) throw garbled(`Expected ${begins}and readings`, line);
  const values: Record<string, number> = {};
  for (const each of body.slice(begins.length).split(";")) {
    const found = match(part, each.trim());
    const bounds = found && readings[found[1]!];
    if (!found || !bounds) throw garbled(`'${each.slice(0, 30)}' is no reading with a figure`, line);
    const value = Number(found[2]);
    if (value < bounds[0] || value > bounds[1])
      throw garbled(`${found[1]}: expected ${bounds[0]} to ${bounds[1]}`, line);
    values[found[1]!] = value;
  }
  return { kind: "water", text: "", values, stable: true };
}

/** NMEA 0183. */
function decodeSentence({ sentences, hdop, degrees }: Sentences, line: string): Said | null {
  if (!line.startsWith("$")) throw garbled("Expected a sentence of NMEA 0183", line);
  const fields = checked(line.slice(1)).split(",");
  const name = fields[0]!.length === 5 ? fields[0]!.slice(2) : "";
  const sentence = sentences[name];
  if (!sentence) return null;
  const [least, place, fixAt, fix] = sentence;
  if (fields.length < least) throw garbled("A sentence with too few fields", line);
  if (!match(fix, fields[fixAt]!)) return null;
  const read = (at: number, halves: string, most: number) => {
    const found = match(degrees, fields[at]!);
    const half = fields[at + 1]!;
    if (!found || half.length !== 1 || !halves.includes(half)) throw garbled("A position that cannot be read", line);
    const value = Number(found[1]) + Number(found[2]) / 60;
    if (Number(found[2]) >= 60 || value > most) throw garbled("A position beyond the earth", line);
    return Number((half === halves[1] ? -value : value).toFixed(7));
  };
  const values: Record<string, number> = { lat: read(place, "NS", 90), lon: read(place + 2, "EW", 180) };
  if (values.lat === 0 && values.lon === 0) return null;
  const [of, at, pattern] = hdop;
  if (name === of && match(pattern, fields[at]!)) values.hdop = Number(fields[at]);
  return { kind: "position", text: "", values, stable: true };
}

/** What stands before the star, where the checksum behind it fits: the exclusive or of its bytes. */
function checked(line: string): string {
  const star = line.lastIndexOf("*");
  const given = line.slice(star + 1);
  if (star < 0 || !/^[0-9A-Fa-f]{2}$/.test(given)) throw garbled("Expected a checksum behind a star", line);
  const body = line.slice(0, star);
  let sum = 0;
  for (const sign of body) sum ^= sign.charCodeAt(0);
  if (sum !== Number.parseInt(given, 16)) throw garbled(`The checksum ${given} does not fit`, line);
  return body;
}

const match = (pattern: string, text: string) => new RegExp(`^(?:${pattern})$`).exec(text);

const garbled = (why: string, line: string) => new Garbled(`${why}: '${line.slice(0, 60)}'.`);
