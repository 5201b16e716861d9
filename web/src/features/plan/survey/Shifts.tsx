import { useState } from "react";
import { ApiError } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { plural } from "@/ui/words/format";
import type { ChangeParts, Survey } from "../queries";

type Shift = NonNullable<ChangeParts["shifts"]>[number];

interface Props {
  survey: Survey;
  refused: Error | null;
  onChange: (shifts: Shift[]) => void;
}

/** Visits shifted by weather, each with its reason; what was planned stays beside it. */
export function Shifts({ survey, refused, onChange }: Props) {
  const shifts = survey.parts.shifts ?? [];
  const [open, setOpen] = useState(false);
  const [visit, setVisit] = useState(1);
  const [days, setDays] = useState<number | null>(1);
  const [reason, setReason] = useState("");
  const [alone, setAlone] = useState<"no" | "yes">("no");
  const wrong = refused instanceof ApiError && refused.field?.startsWith("parts.shifts") ? refused : null;
  const keep = () => {
    if (!days || reason.trim().length < 3) return;
    onChange([...shifts, { visit, days, alone, reason: reason.trim() }]);
    setReason("");
    setOpen(false);
  };
  return (
    <section aria-label="Shifted visits" className="grid gap-2">
      {shifts.length > 0 && (
        <ul>
          {shifts.map((each, place) => (
            <li
              key={`${place} ${each.visit} ${each.days}`}
              className="flex flex-wrap items-center gap-x-3 border-t border-line py-1"
            >
              Visit {each.visit} {each.alone === "yes" ? "alone" : "and all after it"},{" "}
              {plural(Math.abs(each.days ?? 0), "day")} {(each.days ?? 0) > 0 ? "later" : "earlier"}: {each.reason}
              <Button className="ml-auto" onClick={() => onChange(shifts.filter((_, other) => other !== place))}>
                Remove shift
              </Button>
            </li>
          ))}
        </ul>
      )}
      {open ? (
        <form
          className="grid gap-2 sm:grid-cols-2"
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <Choice label="Visit" value={visit} onChange={(event) => setVisit(Number(event.target.value))}>
            {Array.from({ length: survey.visits }, (_, at) => (
              <option key={at + 1} value={at + 1}>
                {at + 1}
              </option>
            ))}
          </Choice>
          <Choice label="Shift" value={alone} onChange={(event) => setAlone(event.target.value as "no" | "yes")}>
            <option value="no">this visit and all after it</option>
            <option value="yes">this visit alone</option>
          </Choice>
          <NumberField
            live
            label="Later by, earlier with a minus"
            unit="days"
            value={days}
            onNumber={setDays}
            error={days === 0 ? "Expected at least one day." : undefined}
          />
          <Field
            label="Reason, such as high water"
            maxLength={120}
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button type="submit" look="ink" large disabled={!days || reason.trim().length < 3}>
            Save shift
          </Button>
          <Button large onClick={() => setOpen(false)}>
            Cancel
          </Button>
        </form>
      ) : (
        <Button className="justify-self-start" onClick={() => setOpen(true)}>
          Shift visits (weather, water)
        </Button>
      )}
      {wrong && (
        <p role="alert" className="text-signal">
          {wrong.message}
        </p>
      )}
    </section>
  );
}
