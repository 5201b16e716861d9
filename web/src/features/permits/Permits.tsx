import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Empty } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { Allowances } from "./Allowances";
import { PermitSheet } from "./PermitSheet";
import { type Permit, useAllowances } from "./queries";
import { ROW } from "./row";

const STATES: Record<string, string> = {
  valid: "valid",
  soon: "! expires within 60 days",
  expired: "! expired",
  "not yet": "not valid yet",
};

/** Permits and certificates, whether they are valid today, and what permits allow. */
export function Permits({ permits, people }: { permits: readonly Permit[]; people: string[] }) {
  const { may } = useHere();
  const [edited, setEdited] = useState<Permit | "new" | null>(null);
  return (
    <>
      <section aria-labelledby="permits" className="mt-7">
        <div className="flex items-center justify-between gap-2">
          <h2 id="permits" className="text-lg font-semibold">
            Permits and certificates
          </h2>
          {may("plan") && <Button onClick={() => setEdited("new")}>Add permit or certificate</Button>}
        </div>
        {permits.length === 0 ? (
          <Empty>
            None added. Add the permits of the programme and the certificates of its people with their dates: each
            outing is checked against them.
          </Empty>
        ) : (
          <PermitTable permits={permits} onChange={setEdited} />
        )}
      </section>
      <Allowances permits={permits.filter(({ kind }) => kind === "permit")} />
      {edited && (
        <PermitSheet people={people} permit={edited === "new" ? null : edited} onClose={() => setEdited(null)} />
      )}
    </>
  );
}

function PermitTable({ permits, onChange }: { permits: readonly Permit[]; onChange: (permit: Permit) => void }) {
  const { membership, may } = useHere();
  const { data: allowances } = useAllowances(membership.programme);
  const counted = new Set(allowances?.map(({ permit_id }) => permit_id));
  return (
    <table className="mt-1 w-full text-left max-sm:block">
      <thead className="border-b border-ink text-sm max-sm:hidden">
        <tr>
          <th className="py-1">Name</th>
          <th>Holder</th>
          <th className="max-sm:hidden">Number</th>
          <th className="max-sm:hidden">Valid from</th>
          <th>Valid to</th>
          <th>State today</th>
          <th>
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody className="max-sm:block">
        {permits.map((permit) => (
          <tr key={permit.id} className={ROW}>
            <td className="py-1.5 max-sm:font-semibold">{permit.name}</td>
            <td>{permit.holder || "the programme"}</td>
            <td className="max-sm:hidden">{permit.number}</td>
            <td className="max-sm:hidden">{formatDay(permit.first)}</td>
            <td>
              <span className="sm:hidden">valid to </span>
              {formatDay(permit.last)}
            </td>
            <td className={permit.state === "valid" ? "" : "font-semibold text-signal"}>{STATES[permit.state]}</td>
            <td className="max-sm:col-span-2">
              <span className="flex flex-wrap items-center justify-end gap-x-4">
                {may("export_rows") && counted.has(permit.id) && <Report permit={permit} />}
                {may("plan") && (
                  <Button aria-label={`Change ${permit.name}`} onClick={() => onChange(permit)}>
                    Change
                  </Button>
                )}
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The report that whoever issued a permit asks for. */
function Report({ permit }: { permit: Permit }) {
  const address = `/api/v1/permits/${permit.id}/report`;
  return (
    <span className="inline-flex min-h-[44px] items-center gap-2 whitespace-nowrap">
      Report:
      {(["PDF", "CSV"] as const).map((form) => (
        <a
          key={form}
          className="grid min-h-[44px] min-w-[44px] place-items-center underline underline-offset-4"
          href={`${address}?form=${form.toLowerCase()}`}
          download
          aria-label={`Report on ${permit.name} as ${form}`}
        >
          {form}
        </a>
      ))}
    </span>
  );
}
