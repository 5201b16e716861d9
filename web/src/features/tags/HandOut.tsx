import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { v7 as uuid } from "uuid";
import { fieldErrors } from "@/api/field-errors";
import { fetchOutings } from "@/features/deck";
import { usePeople } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Refusal } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatDay, plural } from "@/ui/words/format";
import { KINDS } from "@/ui/words/tag-kinds";
import { type Batch, type Kind, useHandOut } from "./queries";

type Who = "outing" | "person" | "boat" | "back";
const WHO: Record<Who, string> = {
  outing: "to an outing",
  person: "to a person",
  boat: "to a boat",
  back: "back into stock",
};

interface Props {
  batches: Batch[];
  batch: Batch | null;
  onClose: () => void;
}

/** Tags go along with an outing, a person or a boat, or come back: the next ones of a batch, or by their numbers. */
export function HandOut({ batches, batch: first, onClose }: Props) {
  const { membership } = useHere();
  const [id] = useState(() => uuid());
  const hand = useHandOut(membership.programme);
  const { data: people } = usePeople(membership.programme);
  const { data: outings } = useQuery({
    queryKey: ["outings", membership.programme],
    queryFn: () => fetchOutings(membership.programme),
  });
  const open = outings?.filter(({ state }) => state === "open") ?? [];
  const errors = fieldErrors(hand.error);
  const { register, handleSubmit, watch } = useForm({
    defaultValues: {
      who: "outing" as Who,
      batch: first?.id ?? "",
      kind: "pit" as Kind,
      numbers: "",
      how_many: String(Math.min(50, first?.counts.stock ?? 50)),
      outing: "",
      person: "",
      boat: "",
    },
  });
  const [who, batch] = watch(["who", "batch"]);
  const chosen = batches.find((each) => each.id === batch);
  const byNumber = !chosen || who === "back";
  const save = handleSubmit((given) =>
    hand.mutate(
      {
        id,
        kind: chosen?.kind ?? given.kind,
        numbers: byNumber ? given.numbers : "",
        batch: byNumber ? null : batch,
        how_many: byNumber ? null : Number(given.how_many),
        outing: (who === "outing" && (given.outing || open[0]?.id)) || null,
        person: (who === "person" && (given.person || people?.members[0]?.person)) || null,
        boat: who === "boat" ? given.boat : "",
        back: who === "back",
      },
      {
        onSuccess: (done) => {
          notify(`${plural(done.n, "tag")} ${WHO[who]}: ${done.first}${done.n > 1 ? ` to ${done.last}` : ""}.`);
          onClose();
        },
      },
    ),
  );
  return (
    <Sheet
      open
      onOpenChange={(still) => !still && onClose()}
      title="Hand tags out"
      description="Who has them is known then, and they are on the tablets of their outing with no signal."
    >
      <form onSubmit={save} className="grid gap-3 sm:grid-cols-2">
        <Choice label="Issue the tags" autoFocus {...register("who")}>
          {Object.entries(WHO).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </Choice>
        {who === "outing" && (
          <Choice label="Outing" required error={errors.outing} {...register("outing")}>
            {!open.length && <option value="">no outing is open</option>}
            {open.map((each) => (
              <option key={each.id} value={each.id}>
                {formatDay(each.date)} {each.name}
              </option>
            ))}
          </Choice>
        )}
        {who === "person" && (
          <Choice label="Person" required error={errors.person} {...register("person")}>
            {people?.members.map((each) => (
              <option key={each.person} value={each.person}>
                {each.name}
              </option>
            ))}
          </Choice>
        )}
        {who === "boat" && <Field label="Boat" required maxLength={60} error={errors.boat} {...register("boat")} />}
        {who === "back" && <span />}
        <Choice label="Batch" error={errors.batch} {...register("batch")}>
          <option value="">any, by their numbers</option>
          {batches.map((each) => (
            <option key={each.id} value={each.id}>
              {each.name}: {each.counts[who === "back" ? "issued" : "stock"] ?? 0}{" "}
              {who === "back" ? "handed out" : "in stock"}
            </option>
          ))}
        </Choice>
        {byNumber ? (
          !chosen && (
            <Choice label="Kind" {...register("kind")}>
              {Object.entries(KINDS).map(([code, words]) => (
                <option key={code} value={code}>
                  {words}
                </option>
              ))}
            </Choice>
          )
        ) : (
          <Field
            label="How many, the next ones"
            type="number"
            min={1}
            max={chosen.counts.stock ?? 0}
            required
            error={errors.how_many}
            {...register("how_many")}
          />
        )}
        {byNumber && (
          <div className="sm:col-span-2">
            <Field label="Numbers, such as W1001 - W1020" required error={errors.numbers} {...register("numbers")} />
          </div>
        )}
        <Refusal failure={hand.error} fields={["outing", "person", "boat", "batch", "how_many", "numbers"]} />
        <Button type="submit" look="ink" large className="sm:col-span-2" disabled={hand.isPending}>
          {who === "back" ? "Back into stock" : "Hand out"}
        </Button>
      </form>
    </Sheet>
  );
}
