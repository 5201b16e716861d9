import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { v7 as uuid } from "uuid";
import { fetchOutings } from "@/features/deck";
import { usePeople } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
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
  const [batch, setBatch] = useState(first?.id ?? "");
  const [who, setWho] = useState<Who>("outing");
  const hand = useHandOut(membership.programme);
  const { data: people } = usePeople(membership.programme);
  const { data: outings } = useQuery({
    queryKey: ["outings", membership.programme],
    queryFn: () => fetchOutings(membership.programme),
  });
  const open = outings?.filter(({ state }) => state === "open") ?? [];
  const chosen = batches.find((each) => each.id === batch);
  const byNumber = !chosen || who === "back";
  const save = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>;
    const done = await hand
      .mutateAsync({
        id,
        kind: (chosen?.kind ?? given.kind) as Kind,
        numbers: given.numbers ?? "",
        batch: byNumber ? null : batch,
        how_many: given.how_many ? Number(given.how_many) : null,
        outing: given.outing || null,
        person: given.person || null,
        boat: given.boat ?? "",
        back: who === "back",
      })
      .catch(() => null); // the refusal is shown below
    if (!done) return;
    notify(`${plural(done.n, "tag")} ${WHO[who]}: ${done.first}${done.n > 1 ? ` to ${done.last}` : ""}.`);
    onClose();
  };
  return (
    <Sheet
      open
      onOpenChange={(still) => !still && onClose()}
      title="Hand tags out"
      description="Who has them is known then, and they are on the tablets of their outing with no signal."
    >
      <form onSubmit={save} className="grid gap-3 sm:grid-cols-2">
        <Choice label="They go" value={who} autoFocus onChange={(event) => setWho(event.target.value as Who)}>
          {Object.entries(WHO).map(([code, words]) => (
            <option key={code} value={code}>
              {words}
            </option>
          ))}
        </Choice>
        {who === "outing" && (
          <Choice label="Outing" name="outing" required>
            {!open.length && <option value="">no outing is open</option>}
            {open.map((each) => (
              <option key={each.id} value={each.id}>
                {formatDay(each.date)} {each.name}
              </option>
            ))}
          </Choice>
        )}
        {who === "person" && (
          <Choice label="Person" name="person" required>
            {people?.members.map((each) => (
              <option key={each.person} value={each.person}>
                {each.name}
              </option>
            ))}
          </Choice>
        )}
        {who === "boat" && <Field label="Boat" name="boat" required maxLength={60} />}
        {who === "back" && <span />}
        <Choice label="Of" value={batch} onChange={(event) => setBatch(event.target.value)}>
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
            <Choice label="Kind" name="kind">
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
            name="how_many"
            type="number"
            min={1}
            max={chosen.counts.stock ?? 0}
            required
            defaultValue={Math.min(50, chosen.counts.stock ?? 0)}
          />
        )}
        {byNumber && (
          <div className="sm:col-span-2">
            <Field label="Numbers, such as W1001 - W1020" name="numbers" required />
          </div>
        )}
        {hand.error && (
          <div className="sm:col-span-2">
            <ErrorMessage failure={hand.error} />
          </div>
        )}
        <Button type="submit" look="ink" large className="sm:col-span-2" disabled={hand.isPending}>
          {who === "back" ? "Back into stock" : "Hand out"}
        </Button>
      </form>
    </Sheet>
  );
}
