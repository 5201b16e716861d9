import { DoneOf } from "@/ui/DoneOf";
import { formatTime, targetWords } from "@/ui/format";
import { Sheet } from "@/ui/Sheet";
import type { DeckView } from "./deck-store";
import { doneOf, goalNow } from "./orders";

/** What the plan asks of this outing: targets, settings in today's water, limits, who signed what. */
export function OrdersSheet({ view, onClose }: { view: DeckView; onClose: () => void }) {
  const { deck } = view;
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
                label={targetWords(named(target.species), { ...target, place: target.reach })}
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
            Tag only fish of <strong>{orders.mark_from_mm} mm</strong> or more.
          </p>
        )}
        {orders && (
          <ul className="list-disc pl-5" aria-label="Limits">
            {orders.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
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
