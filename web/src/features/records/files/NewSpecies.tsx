import { useForm } from "react-hook-form";
import { NOTHING_KNOWN, useDescribeSpecies, useSetSpecies, useSpecies } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";

interface Props {
  /** The word of the file. */
  word: string;
  onClose: () => void;
  /** The species is on the list now. */
  onAdded: (code: string) => void;
}

/** A species that a file names and the programme's list has not: one of the library, or a new one. */
export function NewSpecies({ word, onClose, onAdded }: Props) {
  const { membership } = useHere();
  const { data: species } = useSpecies(membership.programme);
  const list = useSetSpecies(membership.programme);
  const describe = useDescribeSpecies(membership.programme, "");
  const { register, handleSubmit, watch } = useForm({
    defaultValues: { code: "", own: word.toLowerCase().slice(0, 3), name: word.toLowerCase(), scientific_name: "" },
  });
  const chosen = watch("code");
  const failure = list.error ?? describe.error;
  const save = handleSubmit(async ({ code: known, own, name, scientific_name }) => {
    const code = known || own.trim().toLowerCase();
    if (!species) return;
    try {
      if (!known) {
        const values = { ...NOTHING_KNOWN, common_name: name, scientific_name };
        await describe.mutateAsync({ as: code, values });
      }
      if (!species.listed.includes(code)) await list.mutateAsync([...species.listed, code]);
      onAdded(code);
    } catch {
      // the refusal is shown below
    }
  });
  return (
    <Sheet open onOpenChange={onClose} title={`Add species for "${word}"`} description="It joins the programme's list.">
      <form onSubmit={save} className="grid grid-cols-2 gap-3">
        <div className="col-span-2">
          <Choice label="Species" {...register("code")}>
            <option value="">a new species...</option>
            {species?.known
              .filter(({ code }) => !species.listed.includes(code))
              .map(({ code, name, scientific_name }) => (
                <option key={code} value={code}>
                  {name} ({scientific_name})
                </option>
              ))}
          </Choice>
        </div>
        {!chosen && (
          <>
            <Field label="Common name" required maxLength={60} {...register("name")} />
            <Field label="Code" required minLength={2} maxLength={8} {...register("own")} />
            <div className="col-span-2">
              <Field label="Scientific name" maxLength={80} {...register("scientific_name")} />
            </div>
            <p className="col-span-2 text-sm text-muted">
              Lengths of 10 to 1,000 mm are accepted, and a general length-weight relationship is used, until its
              species page says more.
            </p>
          </>
        )}
        {failure && (
          <div className="col-span-2">
            <ErrorMessage failure={failure} />
          </div>
        )}
        <Button type="submit" look="ink" large className="col-span-2" disabled={describe.isPending || list.isPending}>
          Add species
        </Button>
      </form>
    </Sheet>
  );
}
