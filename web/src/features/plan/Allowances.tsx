import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { Empty, ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatDay, whole } from "@/ui/words/format";
import { type Allowance, useAllowanceStep, useAllowances } from "./queries";

const WHAT: Record<Allowance["what"], string> = {
  captured: "captured",
  handled: "measured, weighed or marked",
  tagged: "given a tag",
  killed: "dead or kept",
};
const STANDS: Record<Allowance["standing"], string> = {
  open: "",
  near: "! four fifths are used",
  last: "! used up",
  over: "! overdrawn",
};

/** What each permit asks to be told, out of the record. */
function Reports({ permits }: { permits: string[] }) {
  const { membership } = useHere();
  return permits.map((permit) => {
    const address = `/api/v1/programmes/${membership.programme}/permit-report?permit=${encodeURIComponent(permit)}`;
    return (
      <span key={permit} className="inline-flex min-h-[44px] items-center gap-2">
        Report on {permit}:
        <a className="underline underline-offset-4" href={address} download aria-label={`Report on ${permit} as PDF`}>
          PDF
        </a>
        <a
          className="underline underline-offset-4"
          href={`${address}&form=csv`}
          download
          aria-label={`Report on ${permit} as CSV`}
        >
          CSV
        </a>
      </span>
    );
  });
}

/** What permits allow by species and period, counted from the record over all outings. */
export function Allowances() {
  const { membership, may } = useHere();
  const { data: allowances, error } = useAllowances(membership.programme);
  const step = useAllowanceStep(membership.programme);
  const [edited, setEdited] = useState<Allowance | "new" | null>(null);
  const takeOut = ({ id, permit, what }: Allowance) =>
    step.mutate(
      { what: "deleted", id, deleted: true },
      {
        onSuccess: () =>
          notify(`${permit}, ${WHAT[what]}: taken out.`, () => step.mutate({ what: "deleted", id, deleted: false })),
      },
    );
  return (
    <section aria-labelledby="allowances" className="mt-7">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 id="allowances" className="text-lg font-semibold">
          What permits allow
        </h2>
        <span className="flex flex-wrap items-center gap-x-4">
          {may("export_rows") && <Reports permits={[...new Set(allowances?.map(({ permit }) => permit))]} />}
          {may("plan") && <Button onClick={() => setEdited("new")}>Enter an allowance</Button>}
        </span>
      </div>
      {error && <ErrorMessage failure={error} />}
      {allowances?.length === 0 && (
        <Empty>
          None entered. A permit's numbers by species are counted from the record; from four fifths on Today says so,
          and the Deck asks at the last fish and beyond.
        </Empty>
      )}
      {allowances && allowances.length > 0 && (
        <table className="mt-1 w-full text-left">
          <thead className="border-b border-ink text-sm">
            <tr>
              <th className="py-1">Permit</th>
              <th>Species</th>
              <th>What</th>
              <th className="text-right">Counted</th>
              <th className="pl-3 max-sm:hidden">From</th>
              <th className="max-sm:hidden">To</th>
              <th>
                <span className="sr-only">Change</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {allowances.map((each) => (
              <tr key={each.id} className="border-b border-line">
                <td className="py-1.5">{each.permit}</td>
                <td>{each.species_name}</td>
                <td>{WHAT[each.what]}</td>
                <td className={`text-right ${each.standing === "open" ? "" : "font-semibold text-signal"}`}>
                  {whole(each.counted)} of {whole(each.most)} fish
                  {STANDS[each.standing] && <span className="block text-sm">{STANDS[each.standing]}</span>}
                </td>
                <td className="pl-3 max-sm:hidden">{formatDay(each.first)}</td>
                <td className="max-sm:hidden">{formatDay(each.last)}</td>
                <td className="text-right whitespace-nowrap">
                  {may("plan") && (
                    <>
                      <Button
                        aria-label={`Change ${each.permit}, ${each.species_name}`}
                        onClick={() => setEdited(each)}
                      >
                        Change
                      </Button>{" "}
                      <Button
                        aria-label={`Take ${each.permit}, ${each.species_name} out`}
                        onClick={() => takeOut(each)}
                      >
                        Out
                      </Button>
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {edited && <AllowanceSheet allowance={edited === "new" ? null : edited} onClose={() => setEdited(null)} />}
    </section>
  );
}

function AllowanceSheet({ allowance, onClose }: { allowance: Allowance | null; onClose: () => void }) {
  const { membership } = useHere();
  const { data: options } = useSelectionOptions(membership.programme);
  const step = useAllowanceStep(membership.programme);
  const year = new Date().getFullYear();
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={allowance ? "Change an allowance" : "Enter an allowance"}
      description="As the permit says it. What it was before stays in the history."
    >
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const given = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
          const body: Schemas["NewAllowanceRequest"] = {
            permit: given.permit!,
            species: given.species!,
            what: given.what as Allowance["what"],
            most: Number(given.most),
            first: given.first!,
            last: given.last!,
          };
          step.mutate(allowance ? { what: "change", id: allowance.id, body } : { what: "enter", body }, {
            onSuccess: onClose,
          });
        }}
      >
        <div className="col-span-2">
          <Field
            label="Permit, name or number"
            name="permit"
            required
            maxLength={120}
            defaultValue={allowance?.permit}
          />
        </div>
        <Choice key={options ? "known" : ""} label="Species" name="species" defaultValue={allowance?.species ?? ""}>
          <option value="">all species together</option>
          {options?.species.map(({ code, name }) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Choice>
        <Choice label="May be" name="what" defaultValue={allowance?.what ?? "captured"}>
          {Object.entries(WHAT).map(([what, words]) => (
            <option key={what} value={what}>
              {words}
            </option>
          ))}
        </Choice>
        <Field label="Fish at most" name="most" type="number" min={0} required defaultValue={allowance?.most} />
        <span />
        <DayField label="First day" name="first" required defaultValue={allowance?.first ?? `${year}-01-01`} />
        <DayField label="Last day" name="last" required defaultValue={allowance?.last ?? `${year}-12-31`} />
        {step.error && (
          <div className="col-span-2">
            <ErrorMessage failure={step.error} />
          </div>
        )}
        <Button type="submit" look="ink" large className="col-span-2" disabled={step.isPending}>
          Keep it
        </Button>
      </form>
    </Sheet>
  );
}
