import { Button } from "@/ui/Button";
import type { InstrumentState } from "./readings";
import type { SerialDevice } from "./serial-devices";

/** How each instrument does; those on this tablet's own cable can be let go. */
export function InstrumentStates({
  states,
  onForget,
}: {
  states: readonly (InstrumentState & Partial<SerialDevice>)[];
  onForget?: (id: number) => void;
}) {
  return (
    <table className="w-full text-left">
      <thead className="border-b border-ink text-sm">
        <tr>
          <th className="py-1">Instrument</th>
          <th>Now</th>
          <th>Garbled lines</th>
          {onForget && <th className="sr-only">Let go</th>}
        </tr>
      </thead>
      <tbody>
        {states.map(({ kind, id, title, state, why, garbled, rate }) => (
          <tr key={id ?? kind} className="border-b border-line align-top">
            <td className="py-1.5 font-semibold">
              {title}
              {rate && <span className="block text-sm font-normal text-muted">{rate.toLocaleString("en")} bit/s</span>}
            </td>
            <td className={`py-1.5 ${state === "connected" ? "" : "text-signal"}`}>
              {state === "connected" ? "○ connected" : `! ${state}`}
              {why && state !== "connected" && <span className="block text-sm">{why}</span>}
            </td>
            <td className="py-1.5">{garbled}</td>
            {onForget && (
              <td className="text-right">
                <Button aria-label={`Let go of ${title}`} onClick={() => onForget(id!)}>
                  Let go
                </Button>
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
