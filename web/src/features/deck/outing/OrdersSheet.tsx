import { useState } from "react";
import { answer, api } from "@/api/client";
import { useProtocol } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DoneOf } from "@/ui/DoneOf";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatTime, targetWords } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { doneOf, goalNow } from "../rules/orders";
import { speciesNames } from "../rules/tagging";

interface Props {
  view: DeckView;
  store: DeckStore;
  onClose: () => void;
}

/** What the plan asks of this outing: targets, settings in today's water, limits, who signed what. */
export function OrdersSheet({ view, store, onClose }: Props) {
  const { document: deck } = view;
  const { orders, targets, checklists, outing, species } = deck;
  const now = goalNow(deck);
  const named = (code: string) => species.find((each) => each.code === code)?.name ?? code;
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={orders ? orders.survey : "Targets and checklists"}
      description={orders ? "What the plan asks of this outing." : "This outing was opened without a plan."}
    >
      <div className="grid gap-4">
        {targets.length > 0 && (
          <ul aria-label="Targets">
            {targets.map((target) => (
              <DoneOf
                key={target.id}
                label={targetWords(named(target.species), { ...target, place: target.zone })}
                done={doneOf(deck, target)}
                wanted={target.wanted}
              />
            ))}
          </ul>
        )}
        {now && orders?.electro && (
          <section aria-label="Settings">
            <h3 className="font-semibold">
              {now.read ? "In the water as it was read" : "In the water that the plan reckoned with"}, about{" "}
              {Math.round(now.goal.us_cm)} µS/cm
            </h3>
            <p>
              Up to <strong>{Math.min(now.goal.volts, now.goal.most_volts)} V</strong>, about{" "}
              <strong>{now.goal.amps} A</strong>, {orders.electro.pulse_hz} Hz, {orders.electro.pulse_width_ms} ms.
              Start at half, raise only until fish are drawn and recover quickly. Never above {now.goal.most_volts} V or{" "}
              {orders.electro.most_amps} A.
            </p>
            {!now.read && <p className="text-sm text-muted">Enter a water reading, and this follows it.</p>}
          </section>
        )}
        {orders?.mark_from_mm != null && (
          <p>
            Tag only {speciesNames(view.document, orders.tags?.species ?? []) || "fish"} of{" "}
            <strong>{orders.mark_from_mm} mm</strong> or more.
          </p>
        )}
        {orders && (
          <ul className="list-disc pl-5" aria-label="Limits">
            {orders.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
        <Protocol view={view} store={store} />
        <ul aria-label="Checklists" className="text-sm">
          {checklists.map(({ code, title, version, signature }) => (
            <li key={code} className="border-t border-line py-1">
              {title} <span className="text-muted">version {version}</span>:{" "}
              {signature ? (
                <>
                  {signature.signed ? "signed by" : "! passed over by"} {signature.name},{" "}
                  {formatTime(signature.at, outing.time_zone)}
                  {signature.note && ` (${signature.note})`}
                </>
              ) : (
                <strong>! not signed</strong>
              )}
            </li>
          ))}
        </ul>
      </div>
    </Sheet>
  );
}

/** Which version of the protocol this outing goes by; where a later one holds, it can go by that from now on. */
function Protocol({ view, store }: Omit<Props, "onClose">) {
  const { may } = useHere();
  const { outing, protocol } = view.document;
  const { data: now } = useProtocol(outing.programme);
  const [failure, setFailure] = useState<Error | null>(null);
  const goBy = async () => {
    setFailure(null);
    try {
      await answer(api.POST("/api/v1/outings/{outing_id}/protocol", { params: { path: { outing_id: outing.id } } }));
      await store.reload();
    } catch (error) {
      setFailure(error as Error);
    }
  };
  const later = outing.state === "open" && now && now.number > protocol.number ? now : null;
  return (
    <section aria-label="Protocol" className="flex flex-wrap items-center gap-3">
      <p>
        {protocol.number
          ? `Uses version ${protocol.number} of the protocol.`
          : "From before there were protocols: uses the shipped values."}
        {later && (
          <strong>
            {" "}
            ! Version {later.number} is in force: {later.versions[0]?.why}.
          </strong>
        )}
      </p>
      {later && may("plan") && <Button onClick={goBy}>Go by version {later.number}</Button>}
      {failure && <ErrorMessage failure={failure} />}
    </section>
  );
}
