import { expect, it } from "vitest";
import cases from "../../../../tests/shared/instrument-lines.json";
import { decodeLine, FORMATS, Garbled } from "./decode-line";
import { LineBuffer } from "./line-buffer";

function read(line: string) {
  const found: Record<string, unknown> = {};
  for (const format of FORMATS) {
    try {
      found[format.name] = decodeLine(format, line);
    } catch (error) {
      if (!(error instanceof Garbled)) throw error;
      expect(error.message).toMatch(/: '.*'\.$/);
    }
  }
  return found;
}

it.each(cases)("reads $line as core does", ({ line, read: expected }) => {
  expect(read(line)).toEqual(expected);
});

it("knows each instrument by its lines: no line is read by two", () => {
  for (const { read } of cases) expect(Object.keys(read).length).toBeLessThanOrEqual(1);
});

it("gives whole lines in whatever pieces, and drops what never ends", () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const buffer = new LineBuffer();
  expect([..."LEN = 4\r\n\r\nWGT\n"].flatMap((sign) => buffer.feed(bytes(sign)))).toEqual(["LEN = 4", "WGT"]);
  for (let n = 0; n < 10; n++) expect(buffer.feed(bytes("x".repeat(100)))).toEqual([]);
  expect(buffer.feed(bytes("tail\nLEN\n"))).toEqual(["LEN"]);
  expect(buffer.dropped).toBeGreaterThan(0);
  expect(buffer.feed(bytes(`${"y".repeat(300)}\nnext\nhal`))).toEqual(["next"]);
  expect(buffer.feed(bytes("f\n"))).toEqual(["half"]);
  expect(buffer.feed(new Uint8Array([255, 254, 10]))).toEqual(["??"]);
});
