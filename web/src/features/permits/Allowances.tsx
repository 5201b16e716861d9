import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty, ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { formatDay, whole } from "@/ui/words/format";
import { AllowanceSheet, WHAT } from "./AllowanceSheet";
import { type Allowance, type Permit, useAllowanceStep, useAllowances } from "./queries";
import { ROW } from "./row";

const STANDS: Record<Allowance["standing"], string> = {
  open: "",
  near: "! four fifths are used",
  last: "! used up",
  over: "! overdrawn",
};

/** What permits allow by species and period, counted from the record over all outings. */
export function Allowances({ permits }: { permits: readonly Permit[] }) {
  const { membership, may } = useHere();
  const { data: allowances, error } = useAllowances(membership.programme);
  const [edited, setEdited] = useState<Allowance | "new" | null>(null);
  return (
    <section aria-labelledby="allowances" className="mt-7">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 id="allowances" className="text-lg font-semibold">
          Allowances of permits
        </h2>
        {may("plan") && permits.length > 0 && <Button onClick={() => setEdited("new")}>Add allowance</Button>}
      </div>
      {error && <ErrorMessage failure={error} />}
      {allowances?.length === 0 && (
        <Empty>
          None added. {permits.length ? "" : "Add the permit first. "}How many fish a permit allows is counted from the
          record: from four fifths on Today warns, and the Deck asks at the last fish and beyond.
        </Empty>
      )}
      {allowances && allowances.length > 0 && <AllowanceTable allowances={allowances} onChange={setEdited} />}
      {edited && (
        <AllowanceSheet
          permits={permits}
          allowance={edited === "new" ? null : edited}
          onClose={() => setEdited(null)}
        />
      )}
    </section>
  );
}

interface TableProps {
  allowances: readonly Allowance[];
  onChange: (allowance: Allowance) => void;
}

function AllowanceTable({ allowances, onChange }: TableProps) {
  const { membership, may } = useHere();
  const step = useAllowanceStep(membership.programme);
  const remove = ({ id, permit, what }: Allowance) =>
    step.mutate(
      { what: "deleted", id, deleted: true },
      {
        onSuccess: () =>
          notify(`${permit}, ${WHAT[what]}: deleted.`, () => step.mutate({ what: "deleted", id, deleted: false })),
      },
    );
  return (
    <table className="mt-1 w-full text-left max-sm:block">
      <thead className="border-b border-ink text-sm max-sm:hidden">
        <tr>
          <th className="py-1">Permit</th>
          <th>Species</th>
          <th>Fish</th>
          <th className="text-right">Counted</th>
          <th className="pl-3 max-sm:hidden">From</th>
          <th className="max-sm:hidden">To</th>
          <th>
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody className="max-sm:block">
        {allowances.map((each) => (
          <tr key={each.id} className={ROW}>
            <td className="py-1.5 max-sm:col-span-2 max-sm:font-semibold">{each.permit}</td>
            <td>{each.species_name}</td>
            <td className="max-sm:text-right">{WHAT[each.what]}</td>
            <td className={`sm:text-right ${each.standing === "open" ? "" : "font-semibold text-signal"}`}>
              {whole(each.counted)} of {whole(each.most)} fish
              {STANDS[each.standing] && <span className="block text-sm">{STANDS[each.standing]}</span>}
            </td>
            <td className="pl-3 max-sm:hidden">{formatDay(each.first)}</td>
            <td className="max-sm:hidden">{formatDay(each.last)}</td>
            <td className="text-right whitespace-nowrap">
              {may("plan") && (
                <>
                  <Button aria-label={`Change ${each.permit}, ${each.species_name}`} onClick={() => onChange(each)}>
                    Change
                  </Button>{" "}
                  <Button aria-label={`Delete ${each.permit}, ${each.species_name}`} onClick={() => remove(each)}>
                    Delete
                  </Button>
                </>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
