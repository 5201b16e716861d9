import { Link } from "@tanstack/react-router";
import { memo, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { answer, api, type Schemas } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { InBar } from "@/ui/bar-slot";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { formatDay, plural } from "@/ui/words/format";
import { CallerSheet } from "../calling/CallerSheet";
import type { DeckStore, DeckView } from "../document/deck-store";
import { toRead, toSign } from "../rules/orders";
import { HandoverSheet, OrdersSheet, WaterSheet } from "../sheets";
import { CorrectRecord } from "./CorrectRecord";
import { LedgerSheet } from "./LedgerSheet";

interface Props {
  store: DeckStore;
  view: DeckView;
  working: boolean;
  onSign: () => void;
}

/** Which outing this is, its water, its state. */
export const OutingBar = memo(function OutingBar({ store, view, working, onSign }: Props) {
  const { may, person } = useHere();
  const { outing, captures, water_readings } = view.document;
  const unsigned = toSign(view.document).length;
  const handedOver = view.document.handovers?.at(-1);
  const [failure, setFailure] = useState<Error | null>(null);
  const [sheet, setSheet] = useState<"water" | "orders" | "caller" | "ledger" | "handover" | null>(null);
  const reopen = async () => {
    setFailure(null);
    try {
      await answer(
        api.POST("/api/v1/outings/{outing_id}/state", {
          params: { path: { outing_id: outing.id } },
          body: { id: uuidv7(), state: "open" },
        }),
      );
      await store.reload();
      notify("Outing open again.");
    } catch (error) {
      setFailure(error as Error);
    }
  };
  const going = view.document.runs.some(({ ended_at }) => ended_at === null);
  // upright there is little room above the board: while a run goes, the outing is told in one line
  const [unfolded, setUnfolded] = useState(false);
  const folded = going && !unfolded ? "max-lg:hidden" : "";
  const fish = captures.reduce((sum, { count = 1 }) => sum + count, 0);
  const water = water_readings.at(-1);
  const unread = working && going && toRead(view.document).length > 0;
  return (
    <>
      <InBar>
        <Link
          to="/deck"
          className={`inline-flex min-h-[44px] items-center underline decoration-line underline-offset-4 hover:decoration-ink ${folded}`}
        >
          All outings
        </Link>
        <h1
          className={`min-w-0 shrink! truncate font-semibold max-lg:flex-1 ${folded ? "" : "max-lg:basis-48"}`}
          title={outing.name}
        >
          {outing.name}
        </h1>
        <span className={`text-muted ${folded}`}>{formatDay(outing.date)}</span>
        <span className="text-muted">{plural(fish, "fish", "fish")}</span>
        {water && (
          <span className={`shrink-[3]! truncate text-muted xl:max-[1400px]:hidden ${folded}`}>
            Water {waterText(water)}
          </span>
        )}
        <span className="ml-auto" />
        {going && (
          <Button className="lg:hidden" aria-expanded={unfolded} onClick={() => setUnfolded(!unfolded)}>
            {unfolded ? "Fold" : "Outing"}
          </Button>
        )}
        {working && unsigned > 0 && (
          <Button look="signal" onClick={onSign}>
            ! {plural(unsigned, "checklist")} to sign
          </Button>
        )}
        {working && (view.document.crew.length > 0 || view.caller) && (
          <Button className={folded} onClick={() => setSheet("caller")} title="Who calls; another can take over">
            {(view.caller ?? person).name.split(" ")[0]} calls
          </Button>
        )}
        <Button className={folded} onClick={() => setSheet("orders")}>
          Limits
        </Button>
        {(working || view.correcting) && (
          <Button
            className={folded}
            title={unread ? `Asked for and not read yet: ${toRead(view.document).join(", ")}` : undefined}
            onClick={() => setSheet("water")}
          >
            {unread ? "! " : ""}Site conditions
          </Button>
        )}
        <Button className={folded} onClick={() => setSheet("ledger")}>
          Daily summary
        </Button>
        {working && may("close_outing") && (
          <Button className={folded} onClick={() => setSheet("handover")}>
            Close outing
          </Button>
        )}
        {outing.state === "closed" && <strong>Closed{handedOver ? `, handed over by ${handedOver.name}` : ""}</strong>}
        {outing.state === "closed" && may("correct_record") && <CorrectRecord store={store} view={view} />}
        {outing.state === "closed" && may("reopen_outing") && !view.correcting && (
          <Button onClick={() => void reopen()}>Open again</Button>
        )}
      </InBar>
      {failure && (
        <div className="px-4 py-2">
          <ErrorMessage failure={failure} />
        </div>
      )}
      {sheet === "water" && (
        <WaterSheet
          store={store}
          view={view}
          run={view.document.runs.findLast(({ ended_at }) => ended_at === null)}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === "handover" && (
        <HandoverSheet
          store={store}
          view={view}
          name={(view.caller ?? person).name}
          onReopen={may("reopen_outing") ? () => void reopen() : undefined}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === "ledger" && <LedgerSheet view={view} onClose={() => setSheet(null)} />}
      {sheet === "caller" && <CallerSheet store={store} view={view} own={person} onClose={() => setSheet(null)} />}
      {sheet === "orders" && <OrdersSheet view={view} store={store} onClose={() => setSheet(null)} />}
    </>
  );
});

function waterText(water: Schemas["WaterReading"]): string {
  return [
    water.temperature_c !== null && `${water.temperature_c} °C`,
    water.ambient_us_cm !== null && `${water.ambient_us_cm} µS/cm`,
    water.specific_us_cm !== null && `${water.specific_us_cm} µS/cm at 25 °C`,
    water.secchi_m !== null && `Secchi ${water.secchi_m} m`,
  ]
    .filter(Boolean)
    .join(", ");
}
