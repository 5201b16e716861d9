import { zodResolver } from "@hookform/resolvers/zod";
import { useForm } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Key } from "@/ui/Key";
import { Sheet } from "@/ui/Sheet";
import type { FigureCode } from "@/ui/words/gears";
import { z } from "@/ui/z";
import type { DeckStore, DeckView } from "../document/deck-store";
import { editRun } from "../operations/run-edit";
import { protocolRows } from "../rules/protocol";
import { askedAtEnd } from "../rules/run-end";
import { FIGURES } from "./figures";

interface Props {
  store: DeckStore;
  view: DeckView;
  /** Of the run. */
  id: string;
  onClose: () => void;
}

/** What the protocol wants of a run that has just ended: its end stands already, and nothing here holds it up. */
export function RunEndSheet({ store, view: { document }, id, onClose }: Props) {
  const run = document.runs.find((each) => each.id === id);
  const asked = run ? askedAtEnd(protocolRows(document, "run_figures"), run) : [];
  return run && asked.length ? <Asked store={store} run={run} asked={asked} onClose={onClose} /> : null;
}

interface AskedProps {
  store: DeckStore;
  run: Schemas["Run"];
  asked: FigureCode[];
  onClose: () => void;
}

function Asked({ store, run, asked, onClose }: AskedProps) {
  const figures = FIGURES.filter(({ name }) => asked.includes(name));
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(z.object(Object.fromEntries(figures.map(({ name, form }) => [name, form])))),
    defaultValues: Object.fromEntries(figures.map(({ name }) => [name, ""])),
  });
  const save = handleSubmit(async (given) => {
    const figures = Object.fromEntries(Object.entries(given).filter(([, value]) => value != null));
    if (Object.keys(figures).length) await editRun(store, run, figures);
    onClose();
  });
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Run ${run.number} has ended`}
      description="The protocol asks for this. It can be said later: Esc."
    >
      <form onSubmit={save} className="grid grid-cols-2 items-end gap-3" noValidate>
        {figures.map(({ name, label, unit }, place) => (
          <Field
            key={name}
            label={unit ? `${label} (${unit})` : label}
            inputMode="decimal"
            autoFocus={place === 0}
            error={formState.errors[name]?.message as string | undefined}
            {...register(name)}
          />
        ))}
        <Button large look="ink" type="submit" className="col-span-2">
          Save <Key>Enter</Key>
        </Button>
      </form>
    </Sheet>
  );
}
