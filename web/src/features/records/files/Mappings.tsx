import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { withMapping } from "./answers";
import { type Answers, useMappings, useSaveMapping } from "./queries";

/** How files of one kind are read, by a name: applied to the next of that kind, and saved. */
export function Mappings({ answers, onChange }: { answers: Answers; onChange: (answers: Answers) => void }) {
  const { membership } = useHere();
  const { data: saved } = useMappings(membership.programme);
  const save = useSaveMapping(membership.programme);
  const [name, setName] = useState("");
  return (
    <details className="border-t border-line pt-1">
      <summary className="min-h-[44px] cursor-pointer py-2 font-semibold">Saved mappings</summary>
      {saved && saved.length > 0 && (
        <Choice
          label="Apply a saved mapping"
          value=""
          onChange={({ target }) => {
            const chosen = saved.find(({ id }) => id === target.value);
            if (!chosen) return;
            onChange(withMapping(answers, chosen.answers));
            notify(`Mapping ${chosen.name} applied.`);
          }}
        >
          <option value="">Choose...</option>
          {saved.map(({ id, name: word }) => (
            <option key={id} value={id}>
              {word}
            </option>
          ))}
        </Choice>
      )}
      <div className="mt-2 grid grid-cols-[1fr_auto] items-end gap-2">
        <Field
          label="Save this mapping as"
          value={name}
          maxLength={60}
          onChange={({ target }) => setName(target.value)}
        />
        <Button
          disabled={!name.trim() || save.isPending}
          onClick={() =>
            save.mutate(
              { name: name.trim(), answers },
              {
                onSuccess: () => {
                  notify(`Mapping saved as ${name.trim()}.`);
                  setName("");
                },
              },
            )
          }
        >
          Save mapping
        </Button>
      </div>
      {save.error && <ErrorMessage failure={save.error} />}
    </details>
  );
}
