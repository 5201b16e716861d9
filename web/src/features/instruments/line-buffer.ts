import tables from "./line-tables.gen.json";

/** Whole lines out of the bytes that come over a wire, in whatever pieces; as core's LineBuffer. */
export class LineBuffer {
  private rest = "";
  private dropping = false;
  /** Lines that were too long, so far. */
  dropped = 0;

  /** The lines that these bytes end, without their ends and empty ones; bytes that are no ASCII become "?". */
  feed(received: Uint8Array): string[] {
    const text = Array.from(received, (byte) => (byte < 128 ? String.fromCharCode(byte) : "?")).join("");
    const ended = (this.rest + text.replaceAll("\r", "\n")).split("\n");
    let rest = ended.pop()!;
    if (this.dropping && ended.length) {
      ended.shift();
      this.dropping = false;
    }
    if (this.dropping) rest = "";
    const lines = ended.filter((line) => line.length <= tables.longest);
    this.dropped += ended.length - lines.length;
    if (rest.length > tables.longest) {
      this.dropped += 1;
      rest = "";
      this.dropping = true;
    }
    this.rest = rest;
    return lines.map((line) => line.trim()).filter(Boolean);
  }
}
