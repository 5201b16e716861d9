import { useRef, useState } from "react";
import { fieldErrors } from "@/api/field-errors";
import { type Series, useSeries, useSeriesStep } from "@/features/waters";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { formatDay, whole } from "@/ui/words/format";

/** Flow, temperature, anglers counted: readings from elsewhere, brought in as files; they stand beside findings. */
export function SeriesOfWater({ water }: { water: string }) {
  const { membership, may } = useHere();
  const { data } = useSeries(membership.programme);
  const { takeOut } = useSeriesStep(membership.programme);
  const series = data?.filter((each) => each.water === water) ?? [];
  const drop = ({ id, name }: Series) =>
    takeOut.mutate(
      { id, deleted: true },
      { onSuccess: () => notify(`${name} is taken out.`, () => takeOut.mutate({ id, deleted: false })) },
    );
  return (
    <section aria-label="Series from elsewhere" className="mt-4">
      <h3 className="font-semibold">Series from elsewhere</h3>
      {series.length === 0 && (
        <p className="text-sm text-muted">
          None yet. A file of flow, temperature or anglers counted, a day or time and a figure in each line, stands
          beside findings.
        </p>
      )}
      <ul>
        {series.map((each) => (
          <li key={each.id} className="flex flex-wrap items-center gap-x-4 border-t border-line py-1">
            <strong>
              {each.name}
              {each.unit && ` (${each.unit})`}
            </strong>
            <span className="text-sm text-muted">
              {whole(each.n)} readings
              {each.first && each.last && `, ${formatDay(each.first)} to ${formatDay(each.last)}`}; {each.source}
            </span>
            {may("plan") && (
              <Button className="ml-auto" aria-label={`Take ${each.name} out`} onClick={() => drop(each)}>
                Delete
              </Button>
            )}
          </li>
        ))}
      </ul>
      {takeOut.error && <ErrorMessage failure={takeOut.error} />}
      {may("plan") && <BringIn water={water} />}
    </section>
  );
}

function BringIn({ water }: { water: string }) {
  const { membership } = useHere();
  const { bring } = useSeriesStep(membership.programme);
  const [told, setTold] = useState({ name: "", unit: "", source: "" });
  const input = useRef<HTMLInputElement>(null);
  const errors = fieldErrors(bring.error);
  const take = (file: File) =>
    bring.mutate(
      { water, ...told, file },
      {
        onSuccess: ({ new: fresh, changed, same, empty }) => {
          setTold({ name: "", unit: "", source: "" });
          notify(
            `${whole(fresh)} readings came in${changed ? `, ${whole(changed)} were corrected` : ""}${same ? `, ${whole(same)} were here` : ""}${empty ? `; ${whole(empty)} lines had no figure` : ""}.`,
          );
        },
      },
    );
  const set = (name: keyof typeof told) => (event: { target: { value: string } }) =>
    setTold({ ...told, [name]: event.target.value });
  return (
    <details className="mt-2">
      <summary className="min-h-[44px] cursor-pointer py-2 underline underline-offset-4">Import file</summary>
      <form
        className="grid max-w-2xl grid-cols-2 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          input.current?.click();
        }}
      >
        <Field
          label="What is read"
          required
          maxLength={60}
          value={told.name}
          hint="Under a name that is here, what is new is added."
          error={errors.name}
          onChange={set("name")}
        />
        <Field label="In which unit" maxLength={20} value={told.unit} error={errors.unit} onChange={set("unit")} />
        <div className="col-span-2">
          <Field
            label="Who measured it, and where the file is from"
            required
            maxLength={200}
            value={told.source}
            error={errors.source}
            onChange={set("source")}
          />
        </div>
        <input
          ref={input}
          type="file"
          accept=".csv,.txt"
          className="sr-only"
          aria-label="File of readings"
          onChange={({ target }) => {
            const file = target.files?.[0];
            target.value = "";
            if (file) take(file);
          }}
        />
        <Button type="submit" disabled={bring.isPending} className="justify-self-start">
          {bring.isPending ? "Reading it..." : "Choose the file (CSV)"}
        </Button>
      </form>
      {bring.error && <ErrorMessage failure={bring.error} />}
    </details>
  );
}
