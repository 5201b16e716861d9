import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { formatDay, whole } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS, POWERED, STATES } from "@/ui/words/tag-kinds";
import { ActivateTags } from "./ActivateTags";
import { type Batch, type Transmitter, useTransmitters } from "./queries";

const LIFE: Record<Transmitter["life"], string> = {
  sending: "Sending",
  soon: "Ends soon",
  over: "Ended",
  unknown: "Battery life not known",
};

/** Tags with a battery: since when each is used, and the last day on which it is expected to be heard. */
export function Transmitters({ batches }: { batches: Batch[] }) {
  const { membership } = useHere();
  const any = batches.some(({ kind }) => POWERED.includes(kind));
  const { data } = useTransmitters(membership.programme, any);
  const [entering, setEntering] = useState(false);
  if (!any) return null;
  return (
    <section aria-label="Transmitters" className="mt-6 max-w-4xl">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto text-lg font-semibold">Transmitters</h2>
        <Button onClick={() => setEntering(true)}>Enter activation</Button>
      </div>
      {data?.length === 0 && (
        <p className="text-muted">
          None is in a fish or activated yet. Enter the day on which their batteries were started.
        </p>
      )}
      {data && data.length > 0 && (
        <div className="overflow-x-auto">
          <table className="w-full text-left">
            <thead className="border-b border-ink text-sm">
              <tr>
                <th className="py-1 pr-3">Number</th>
                <th className="pr-3">State</th>
                <th className="pr-3">In use since</th>
                <th className="pr-3 text-right">Battery (days)</th>
                <th className="pr-3">Last expected signal</th>
                <th>Battery</th>
              </tr>
            </thead>
            <tbody>
              {data.map((tag) => (
                <Row key={`${tag.kind} ${tag.number}`} tag={tag} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {entering && <ActivateTags onClose={() => setEntering(false)} />}
    </section>
  );
}

function Row({ tag }: { tag: Transmitter }) {
  const text = `${KINDS[tag.kind]} ${markText(tag)}`;
  return (
    <tr className="border-b border-line">
      <td className="pr-3 tabular-nums">
        {tag.fish ? (
          <Link
            to="/fish/$fish"
            params={{ fish: tag.fish }}
            className="inline-flex min-h-[44px] items-center underline underline-offset-4"
          >
            {text}
          </Link>
        ) : (
          <span className="inline-flex min-h-[44px] items-center">{text}</span>
        )}
      </td>
      <td className="pr-3">{STATES[tag.state]}</td>
      <td className="pr-3">
        {tag.since ? formatDay(tag.since) : "not known"}
        {tag.since && !tag.activated && <span className="text-muted"> (implanted)</span>}
      </td>
      <td className="pr-3 text-right tabular-nums">{tag.battery_days === null ? "–" : whole(tag.battery_days)}</td>
      <td className="pr-3">{tag.until ? formatDay(tag.until) : "–"}</td>
      <td className={tag.life === "soon" ? "font-semibold text-signal" : tag.life === "over" ? "text-muted" : ""}>
        {tag.life === "soon" && <span aria-hidden="true">! </span>}
        {LIFE[tag.life]}
      </td>
    </tr>
  );
}
