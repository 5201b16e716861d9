import { decodeLine, FORMATS, Garbled, type Said } from "./decode-line";
import { LineBuffer } from "./line-buffer";
import type { InstrumentReading, InstrumentState } from "./readings";

/** As much of Web Serial as is used here. */
export interface SerialPort {
  readable: ReadableStream<Uint8Array> | null;
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  forget(): Promise<void>;
}
export interface Serial {
  getPorts(): Promise<SerialPort[]>;
  requestPort(): Promise<SerialPort>;
  addEventListener(kind: "connect" | "disconnect", listener: (event: { target: unknown }) => void): void;
}

/** One device on this tablet's own cable. */
export interface SerialDevice extends InstrumentState {
  id: number;
  /** Bits a second at which it is heard. */
  rate: number;
}

/** Rates that are tried, 8 bits without parity: the usual one, NMEA 0183's, faster ones. */
export const RATES = [9600, 4800, 38_400, 115_200] as const;
/** So many bytes without a line, and it is not at this rate. */
const NO_LINE_BYTES = 512;
/** What comes after a garbled line takes its place as the state after so long, ms. */
const GARBLED_FOR_MS = 5000;
/** Readings are told so often at most: of one instrument's figures the newest counts, of numbers each. */
const EVERY_MS = 100;

type Heard = Omit<InstrumentReading, "n">;

/**
 * Devices that this tablet reads by itself, with no gateway, through the same tables.
 *
 * Which instrument it is, its lines tell; the rate is tried until one is read. Ports that were allowed once are opened again by
 * themselves when they are plugged in.
 */
export class SerialDevices {
  /** Changed as a whole, never in place. */
  devices: readonly SerialDevice[] = [];
  private readonly cables = new Map<SerialPort, Cable>();
  private readonly onChange = new Set<() => void>();
  private readonly onReading = new Set<(reading: InstrumentReading) => void>();
  private readonly pending = new Map<string, Heard>();
  /** Counts down: the gateway's readings count up. */
  private n = 0;
  private lastId = 0;
  private begun = false;

  constructor(private readonly serial: Serial | undefined) {}

  /** Whether this browser reads cables at all. */
  get offered(): boolean {
    return this.serial !== undefined;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.onChange.add(listener);
    void this.begin();
    return () => this.onChange.delete(listener);
  };

  /** Tells what is read from now on. */
  listen(listener: (reading: InstrumentReading) => void): () => void {
    this.onReading.add(listener);
    return () => this.onReading.delete(listener);
  }

  /** Asks a person which device; rejects where none was chosen. Needs a touch. */
  async choose(): Promise<void> {
    this.hear(await this.serial!.requestPort());
  }

  /** Lets go of a device, and of the permission to open it. */
  async forget(id: number): Promise<void> {
    for (const [port, cable] of this.cables) {
      if (cable.id !== id) continue;
      this.cables.delete(port);
      await cable.end();
      await port.forget();
    }
    this.tell();
  }

  private async begin(): Promise<void> {
    if (this.begun || !this.serial) return;
    this.begun = true;
    this.serial.addEventListener("connect", ({ target }) => this.hear(target as SerialPort));
    for (const port of await this.serial.getPorts()) this.hear(port);
    setInterval(() => this.tell(), 1000); // silence comes by itself
  }

  private hear(port: SerialPort): void {
    const known = this.cables.get(port);
    const cable = known ?? new Cable(port, ++this.lastId, this.read, () => this.tell());
    this.cables.set(port, cable);
    void cable.run();
    this.tell();
  }

  private tell(): void {
    const now = [...this.cables.values()].map((cable) => cable.state());
    if (JSON.stringify(now) === JSON.stringify(this.devices)) return;
    this.devices = now;
    for (const listener of this.onChange) listener();
  }

  private read = (instrument: string, said: Said): void => {
    if (this.pending.size === 0) setTimeout(this.flush, EVERY_MS);
    this.pending.set(instrument + said.text, { instrument, ...said });
  };

  private flush = (): void => {
    const heard = [...this.pending.values()];
    this.pending.clear();
    for (const each of heard) {
      this.n -= 1;
      for (const listener of this.onReading) listener({ ...each, n: this.n });
    }
  };
}

/** One port, opened again at another rate until its lines can be read. */
class Cable {
  private format = FORMATS[0]!;
  private known = false;
  private rate = 0;
  private connected = false;
  private running = false;
  private ended = false;
  private why = "";
  private garbled = 0;
  /** Garbled lines since it was opened at this rate. */
  private unread = 0;
  private lastLine = 0;
  private lastGarbled: number | null = null;
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null;

  constructor(
    private readonly port: SerialPort,
    readonly id: number,
    private readonly read: (instrument: string, said: Said) => void,
    private readonly changed: () => void,
  ) {}

  state(): SerialDevice {
    const { format, known } = this;
    return {
      id: this.id,
      kind: known ? format.name : `cable-${this.id}`,
      title: known ? format.title : `Device on cable ${this.id}`,
      state: this.now(),
      why: this.why,
      garbled: this.garbled,
      rate: RATES[this.rate]!,
    };
  }

  private now(): InstrumentState["state"] {
    if (!this.connected) return "absent";
    if (this.lastGarbled !== null && performance.now() - this.lastGarbled < GARBLED_FOR_MS) return "garbled";
    const { silent_after_s } = this.format;
    return this.known && silent_after_s && performance.now() - this.lastLine > silent_after_s * 1000
      ? "silent"
      : "connected";
  }

  /** Until it is unplugged, or let go. */
  async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      while (!this.ended && (await this.hearAtThisRate())) this.rate = (this.rate + 1) % RATES.length;
    } catch (error) {
      this.why = `It cannot be opened: ${error instanceof Error ? error.message : error}`;
    }
    this.running = this.connected = false;
    this.changed();
  }

  async end(): Promise<void> {
    this.ended = true;
    await this.reader?.cancel();
  }

  /** Whether another rate is to be tried. */
  private async hearAtThisRate(): Promise<boolean> {
    await this.port.open({ baudRate: RATES[this.rate]! });
    this.connected = true;
    this.lastLine = performance.now();
    this.unread = 0;
    this.changed();
    // a stream that met a framing error or a break is followed by a new one; an unplugged port has none any more
    while (this.port.readable && !this.lost && !this.ended) await this.hearStream(this.port.readable);
    if (this.port.readable) await this.port.close();
    return this.lost;
  }

  /** The first line may be half of one, of an instrument that was speaking already: two that cannot be read say that the rate is wrong. */
  private get lost(): boolean {
    return !this.known && this.unread > 1;
  }

  private async hearStream(stream: ReadableStream<Uint8Array>): Promise<void> {
    const buffer = new LineBuffer();
    let bytes = 0;
    this.reader = stream.getReader();
    try {
      while (!this.lost) {
        const { value, done } = await this.reader.read();
        if (done) return;
        const lines = buffer.feed(value);
        for (const line of lines) this.hear(line);
        bytes = lines.length ? 0 : bytes + value.length;
        if (bytes > NO_LINE_BYTES) {
          bytes = 0;
          this.garble("Bytes without the end of a line");
        }
      }
      await this.reader.cancel();
    } catch (error) {
      if (this.port.readable) this.garble(`The cable was disturbed: ${error instanceof Error ? error.message : error}`);
    } finally {
      this.reader.releaseLock();
      this.reader = null;
    }
  }

  /** The instrument that it was until now is asked first; where another reads the line, it is that one. */
  private hear(line: string): void {
    this.lastLine = performance.now();
    let refused = "";
    for (const format of [this.format, ...FORMATS.filter((each) => each !== this.format)]) {
      try {
        const said = decodeLine(format, line);
        if (!this.known) {
          // what was noise at another rate is no fault of the instrument's
          this.lastGarbled = null;
          this.garbled = 0;
        }
        this.format = format;
        this.known = true;
        if (said) this.read(format.name, said);
        this.changed();
        return;
      } catch (error) {
        if (!(error instanceof Garbled)) throw error;
        refused ||= error.message;
      }
    }
    this.garble(this.known ? refused : `No instrument known here speaks so: '${line.slice(0, 60)}'.`);
  }

  private garble(why: string): void {
    this.lastGarbled = performance.now();
    this.why = why;
    this.garbled += 1;
    this.unread += 1;
    this.changed();
  }
}

export const serialDevices = new SerialDevices(
  typeof navigator === "undefined" ? undefined : (navigator as Navigator & { serial?: Serial }).serial,
);
