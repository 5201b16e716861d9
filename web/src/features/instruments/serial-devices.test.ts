import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { InstrumentReading } from "./readings";
import { RATES, type Serial, SerialDevices, type SerialPort } from "./serial-devices";

const checked = (body: string) => {
  let sum = 0;
  for (const sign of body) sum ^= sign.charCodeAt(0);
  return `${body}*${sum.toString(16).toUpperCase().padStart(2, "0")}\r\n`;
};

/** A port whose device speaks at one rate, and noise at every other; it may be pulled. */
class FakePort implements SerialPort {
  readable: ReadableStream<Uint8Array> | null = null;
  opened: number[] = [];
  forgotten = false;
  private control: ReadableStreamDefaultController<Uint8Array> | null = null;

  constructor(private readonly rate: number = RATES[0]) {}

  async open({ baudRate }: { baudRate: number }) {
    if (this.readable) throw new Error("it is open already");
    this.opened.push(baudRate);
    this.stream();
  }
  private stream() {
    const start = (control: ReadableStreamDefaultController<Uint8Array>) => {
      this.control = control;
    };
    this.readable = new ReadableStream({ start });
  }
  async close() {
    this.readable = null;
  }
  async forget() {
    this.forgotten = true;
  }
  say(text: string) {
    const right = this.opened.at(-1) === this.rate;
    this.control!.enqueue(right ? new TextEncoder().encode(text) : new Uint8Array([0xfe, 0x80, 0x0a, 0xff, 0x0a]));
  }
  disturb() {
    const was = this.control!;
    this.stream();
    was.error(new Error("framing"));
  }
  pull() {
    const was = this.control!;
    this.readable = null;
    was.error(new Error("lost"));
  }
}

function devicesWith(...ports: FakePort[]) {
  let connect = (_: { target: unknown }) => {};
  const serial: Serial = {
    getPorts: async () => ports,
    requestPort: async () => new FakePort(),
    addEventListener: (kind, listener) => {
      if (kind === "connect") connect = listener;
    },
  };
  const devices = new SerialDevices(serial);
  const heard: InstrumentReading[] = [];
  devices.listen((reading) => heard.push(reading));
  devices.subscribe(() => {});
  return { devices, heard, plug: (port: FakePort) => connect({ target: port }) };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());
const pass = (ms = 200) => vi.advanceTimersByTimeAsync(ms);

it("hears what was allowed before, and tells by its lines which instrument it is", async () => {
  const port = new FakePort();
  const { devices, heard } = devicesWith(port);
  await pass();
  expect(devices.devices).toMatchObject([{ title: "Device on cable 1", state: "connected", rate: 9600 }]);
  port.say(checked("LEN = 437 mm"));
  port.say(checked("LEN = 441 mm")); // within the same tenth of a second: the newest figure counts
  await pass();
  expect(heard.map(({ kind, values }) => [kind, values])).toEqual([["length", { length: 441 }]]);
  expect(devices.devices).toMatchObject([{ kind: "board", title: "Measuring board", state: "connected", garbled: 0 }]);
  port.say(checked("WGT = 890 g"));
  await pass();
  expect(devices.devices).toMatchObject([{ kind: "balance" }]);
});

it("tries other rates until a line is read", async () => {
  const port = new FakePort(4800);
  const { devices, heard } = devicesWith(port);
  await pass();
  port.say("");
  await pass();
  expect(port.opened).toEqual([9600, 4800]);
  expect(devices.devices[0]).toMatchObject({ state: "garbled", rate: 4800 });
  port.say(`.038,N,01131.000,E,1,08,0.9*12\r\n`); // half a sentence, of a receiver that was speaking already
  port.say(`$${checked("GPGGA,1,4807.038,N,01131.000,E,1,08,0.9")}`);
  await pass();
  expect(heard.at(-1)).toMatchObject({ kind: "position", values: { lat: 48.1173, hdop: 0.9 } });
  expect(port.opened).toEqual([9600, 4800]);
  await pass(6100);
  expect(devices.devices[0]).toMatchObject({ title: "GPS", state: "silent" });
});

it("says what is garbled and goes on at the same rate once it was understood", async () => {
  const port = new FakePort();
  const { devices, heard } = devicesWith(port);
  await pass();
  port.say(checked("LEN = 437 mm"));
  for (let n = 0; n < 5; n++) port.say("LEN = 43?*00\r\n");
  await pass();
  expect(devices.devices[0]).toMatchObject({ state: "garbled", garbled: 5 });
  expect(devices.devices[0]!.why).toContain("The checksum 00 does not fit");
  port.disturb();
  await pass();
  port.say(checked("LEN = 438 mm"));
  await pass();
  expect(heard.at(-1)!.values).toEqual({ length: 438 });
  expect(port.opened).toEqual([9600]);
});

it("is pulled, and heard again when it is back", async () => {
  const port = new FakePort();
  const { devices, heard, plug } = devicesWith(port);
  await pass();
  port.say(checked("LEN = 437 mm"));
  await pass();
  port.pull();
  await pass();
  expect(devices.devices[0]).toMatchObject({ title: "Measuring board", state: "absent", garbled: 0 });
  plug(port);
  await pass();
  port.say(checked("LEN = 438 mm"));
  await pass();
  expect(heard.map(({ values }) => values.length)).toEqual([437, 438]);
  expect(new Set(heard.map(({ n }) => n)).size).toBe(2);
  expect(devices.devices).toHaveLength(1);
});

it("lets a device go, and one that is open elsewhere is said to be", async () => {
  const [port, taken] = [new FakePort(), new FakePort()];
  await taken.open({ baudRate: 9600 });
  const { devices } = devicesWith(port, taken);
  await pass();
  expect(devices.devices[1]).toMatchObject({
    state: "absent",
    why: "It cannot be opened: it is open already",
  });
  await devices.forget(1);
  expect(port.forgotten).toBe(true);
  expect(port.readable).toBeNull();
  expect(devices.devices.map(({ id }) => id)).toEqual([2]);
  await devices.choose();
  await pass();
  expect(devices.devices.map(({ id }) => id)).toEqual([2, 3]);
});
