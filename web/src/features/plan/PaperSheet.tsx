import type { FormEvent } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { type Paper, useKeepPaper } from "./queries";

/** Enters a paper, or one anew under the same name: its number and days change. */
export function PaperSheet({ people, paper, onClose }: { people: string[]; paper: Paper | null; onClose: () => void }) {
  const { membership } = useHere();
  const keep = useKeepPaper(membership.programme);
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
    const done = await keep
      .mutateAsync({
        id: paper?.id,
        kind: given.holder ? "qualification" : "permit",
        name: given.name!,
        holder: given.holder ?? "",
        number: given.number ?? "",
        gears: paper?.gears ?? [],
        first: given.first!,
        last: given.last!,
      })
      .catch(() => null); // the refusal is shown below
    if (done) onClose();
  };
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={paper ? `Renew: ${paper.name}` : "Enter a paper"}
      description="A permit, or somebody's qualification"
    >
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <div className="col-span-2">
          <Field label="What" name="name" required maxLength={120} defaultValue={paper?.name} />
        </div>
        <Choice label="Of whom" name="holder" defaultValue={paper?.holder}>
          <option value="">the programme (a permit)</option>
          {[...new Set([...people, paper?.holder].filter(Boolean))].map((name) => (
            <option key={name}>{name}</option>
          ))}
        </Choice>
        <Field label="Number" name="number" maxLength={60} defaultValue={paper?.number} />
        <DayField label="Valid from" name="first" required defaultValue={paper?.first} />
        <DayField label="Valid to" name="last" required defaultValue={paper?.last} />
        {keep.error && (
          <div className="col-span-2">
            <ErrorMessage failure={keep.error} />
          </div>
        )}
        <Button large look="ink" type="submit" disabled={keep.isPending} className="col-span-2">
          Keep it
        </Button>
      </form>
    </Sheet>
  );
}
