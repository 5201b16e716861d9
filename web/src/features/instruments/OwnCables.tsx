import { useState } from "react";
import { Button } from "@/ui/Button";
import { InstrumentStates } from "./InstrumentStates";
import { type SerialDevice, serialDevices } from "./serial-devices";

/** Devices that this tablet's browser reads by itself. */
export function OwnCables({ devices }: { devices: readonly SerialDevice[] }) {
  const [problem, setProblem] = useState("");
  const choose = () => {
    setProblem("");
    serialDevices.choose().catch((error: Error) => setProblem(`No device was chosen: ${error.message}`));
  };
  const letGo = (id: number) => {
    serialDevices.forget(id).catch((error: Error) => setProblem(`It was not let go: ${error.message}`));
  };
  return (
    <section aria-label="On this tablet's own cable">
      <h2 className="font-semibold">On this tablet's own cable</h2>
      {serialDevices.offered ? (
        <>
          {devices.length > 0 && <InstrumentStates states={devices} onForget={letGo} />}
          <div className="mt-2 flex flex-wrap items-center gap-3">
            <Button large onClick={choose}>
              Choose a device
            </Button>
            <p role="status" className="text-muted">
              {problem || "Heard without a gateway; which instrument it is, its lines tell."}
            </p>
          </div>
        </>
      ) : (
        <p className="text-muted">
          This browser reads no serial cables by itself; the gateway, or a reader that types like a keyboard, does.
        </p>
      )}
    </section>
  );
}
