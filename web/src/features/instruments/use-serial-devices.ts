import { useEffect, useEffectEvent, useSyncExternalStore } from "react";
import type { InstrumentReading } from "./readings";
import { type SerialDevice, serialDevices } from "./serial-devices";

/** Devices on this tablet's own cables, and what they read. */
export function useSerialDevices(onReading: (reading: InstrumentReading) => void): readonly SerialDevice[] {
  const tell = useEffectEvent(onReading);
  useEffect(() => serialDevices.listen((reading) => tell(reading)), []);
  return useSyncExternalStore(serialDevices.subscribe, () => serialDevices.devices);
}
