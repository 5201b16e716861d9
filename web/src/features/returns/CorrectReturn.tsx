import { useState } from "react";
import { useForm } from "react-hook-form";
import { fieldErrors } from "@/api/field-errors";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { useCorrectReturn, type WholeReport } from "./queries";
import { SaidFields } from "./SaidFields";
import { bodyOf, detailsOf, type Said } from "./said";

/** What the finder put right; only what changes is sent, and what was said before stays in the history. */
export function CorrectReturn({ report, onClose }: { report: WholeReport; onClose: () => void }) {
  const correct = useCorrectReturn(report.id);
  const [unread, setUnread] = useState<Record<string, string>>({});
  const { register, handleSubmit, formState, control } = useForm<Said>({ defaultValues: detailsOf(report) });
  const { dirtyFields } = formState; // read here, so that the form keeps it
  const save = handleSubmit((said) => {
    const changed = Object.keys(dirtyFields) as (keyof Said)[];
    const read = bodyOf(said, changed);
    if ("errors" in read) return setUnread(read.errors);
    setUnread({});
    if (!changed.length) return onClose();
    correct.mutate(read.body, {
      onSuccess: () => {
        notify("Report corrected. What it said before is in its history.");
        onClose();
      },
    });
  });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Correct report"
      description="As the finder put it right. The number that they read stays as it was."
    >
      <form onSubmit={save} className="grid gap-3">
        <SaidFields register={register} control={control} errors={{ ...fieldErrors(correct.error), ...unread }} />
        {correct.error && <ErrorMessage failure={correct.error} />}
        <Button type="submit" look="ink" large disabled={correct.isPending}>
          Save correction
        </Button>
      </form>
    </Sheet>
  );
}
