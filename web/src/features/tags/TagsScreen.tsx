import { getRouteApi, Link } from "@tanstack/react-router";
import { useDeferredValue, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay, money, whole } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS, SHOWN, STATES } from "@/ui/words/tag-kinds";
import { EnterTags } from "./EnterTags";
import { ExchangeSheet } from "./ExchangeSheet";
import { FishStorySheet } from "./FishStorySheet";
import { HandedOut } from "./HandedOut";
import { HandOut } from "./HandOut";
import { type Batch, type FoundTag, useBatches, useTagsFound } from "./queries";
import { TagMoves } from "./TagMoves";
import { TakeOutOfUse } from "./TakeOutOfUse";
import { Transmitters } from "./Transmitters";

const route = getRouteApi("/tags");

type Opened = { what: "enter" | "hand-out"; batch: Batch | null } | { what: "out-of-use" | "exchange" } | null;

/** The stock of tags: what there is, who has it, which fish carries it. */
export function TagsScreen() {
  const { membership, may } = useHere();
  const { data: batches, error } = useBatches(membership.programme, may("keep_tags"));
  const [opened, setOpened] = useState<Opened>(null);
  const close = () => setOpened(null);
  if (!may("keep_tags"))
    return (
      <main className="px-4 py-3">
        <h1 className="text-xl font-semibold">Tags</h1>
        <FindTag />
      </main>
    );
  return (
    <main className="px-4 py-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 pb-2">
        <h1 className="mr-auto text-xl font-semibold">Tags</h1>
        <Link
          to="/tags/returns"
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
        >
          Reports of tags
        </Link>
        <Link
          to="/tags/volunteers"
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
        >
          Volunteers
        </Link>
        <Link
          to="/kit"
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
        >
          My tagging
        </Link>
        <Button large onClick={() => setOpened({ what: "exchange" })}>
          Other programmes
        </Button>
        <Button large look="ink" onClick={() => setOpened({ what: "enter", batch: null })}>
          Enter tags
        </Button>
        {batches && batches.length > 0 && (
          <>
            <Button large onClick={() => setOpened({ what: "hand-out", batch: null })}>
              Hand out
            </Button>
            <Button large onClick={() => setOpened({ what: "out-of-use" })}>
              Lost or damaged
            </Button>
          </>
        )}
      </div>
      {error && <ErrorMessage failure={error} />}
      {!batches && !error && <p className="text-muted">Reading the stock...</p>}
      {batches?.length === 0 && (
        <Empty>
          No tags yet. Enter the ones you have: kind and numbers are enough, such as T-bar W1001 - W1100. From then on
          the Deck knows them, with no signal too, and a fish that carries one is known when it is met again.
        </Empty>
      )}
      {batches && batches.length > 0 && <Batches batches={batches} onOpen={setOpened} />}
      {(batches?.length ?? 0) > 0 && <FindTag />}
      {(batches?.length ?? 0) > 0 && <HandedOut />}
      {batches && <Transmitters batches={batches} />}
      {opened?.what === "enter" && <EnterTags batch={opened.batch} onClose={close} />}
      {opened?.what === "hand-out" && <HandOut batches={batches ?? []} batch={opened.batch} onClose={close} />}
      {opened?.what === "exchange" && <ExchangeSheet onClose={close} />}
      {opened?.what === "out-of-use" && <TakeOutOfUse onClose={close} />}
    </main>
  );
}

function Batches({ batches, onOpen }: { batches: Batch[]; onOpen: (opened: Opened) => void }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1">Batch</th>
            <th className="pr-3 max-sm:hidden">Kind</th>
            <th className="max-sm:hidden">Numbers</th>
            {SHOWN.map((state) => (
              <th key={state} className="pl-3 text-right">
                {STATES[state]}
              </th>
            ))}
            <th className="pl-3 text-right max-sm:hidden">Out of use</th>
            <th>
              <span className="sr-only">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {batches.map((batch) => (
            <BatchRow key={batch.id} batch={batch} onOpen={onOpen} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function BatchRow({ batch, onOpen }: { batch: Batch; onOpen: (opened: Opened) => void }) {
  const { currency } = useHere().membership;
  const { kind, name, colour, size_mm, mass_g, battery_days, received, first_number, last_number, counts } = batch;
  const rest = Object.entries(counts).filter(([state]) => !(SHOWN as readonly string[]).includes(state));
  const told = [
    batch.meaning ? `${colour} for ${batch.meaning}` : colour,
    batch.reward && `reward ${money(batch.reward, currency)}`,
    batch.frequency_khz && `${batch.frequency_khz} kHz ${batch.code_space}`.trim(),
    size_mm && `${size_mm} mm`,
    mass_g && `${mass_g} g`,
    battery_days && `${battery_days} days`,
    received && `received ${formatDay(received)}`,
    batch.price_each && counts.stock && `${money(batch.price_each * counts.stock, currency)} in stock`,
  ].filter(Boolean);
  return (
    <tr className="border-b border-line">
      <td className="py-1.5 pr-3">
        <span className="font-semibold">{name}</span>
        <span className="block text-sm text-muted">
          <span className="sm:hidden">{KINDS[kind]} </span>
          {told.join(", ")}
        </span>
      </td>
      <td className="pr-3 max-sm:hidden">{KINDS[kind]}</td>
      <td className="tabular-nums max-sm:hidden">
        {first_number && markText({ kind, number: first_number })}
        {last_number !== first_number && <span className="block">to {markText({ kind, number: last_number })}</span>}
      </td>
      {SHOWN.map((state) => (
        <td key={state} className="pl-3 text-right tabular-nums">
          {whole(counts[state] ?? 0)}
        </td>
      ))}
      <td
        className="pl-3 text-right tabular-nums max-sm:hidden"
        title={rest.map(([state, n]) => `${STATES[state]}: ${n}`).join(", ")}
      >
        {whole(rest.reduce((sum, [, n]) => sum + n, 0))}
      </td>
      <td className="py-1 pl-3 text-right whitespace-nowrap">
        <Button
          className="mr-1 max-sm:hidden"
          aria-label={`Hand out of ${name}`}
          disabled={!counts.stock}
          onClick={() => onOpen({ what: "hand-out", batch })}
        >
          Hand out
        </Button>
        <Button aria-label={`Add to or change ${name}`} onClick={() => onOpen({ what: "enter", batch })}>
          Change
        </Button>
      </td>
    </tr>
  );
}

/** A tag by its number, whole or part: where it is, who has it, which fish carries it. */
function FindTag() {
  const { membership } = useHere();
  const { number: asked } = route.useSearch();
  const navigate = route.useNavigate();
  const [fish, setFish] = useState<string | null>(null);
  const [moves, setMoves] = useState<FoundTag | null>(null);
  const typed = asked ?? "";
  const number = useDeferredValue(typed);
  const { data: found } = useTagsFound(membership.programme, number);
  return (
    <section aria-label="Find a tag" className="mt-6 max-w-3xl">
      <Field
        label="Find a tag: its number or part of it; ? for a sign that is worn away"
        type="search"
        value={typed}
        maxLength={40}
        onChange={({ target }) => void navigate({ search: { number: target.value || undefined }, replace: true })}
      />
      {number.length > 1 && found?.length === 0 && (
        <p className="pt-2">No tag of the stock has “{number}” in its number.</p>
      )}
      {number.length > 1 && found && found.length > 0 && (
        <ul className="pt-2">
          {found.map((tag) => (
            <li
              key={`${tag.kind} ${tag.number}`}
              className="flex min-h-[44px] flex-wrap items-center gap-x-4 border-b border-line"
            >
              <button
                type="button"
                className="min-h-[44px] w-64 cursor-pointer text-left tabular-nums underline underline-offset-4"
                onClick={() => setMoves(tag)}
              >
                {KINDS[tag.kind]} {markText(tag)}
              </button>
              <span className="w-56">
                {STATES[tag.state]}
                {tag.holder && `, ${tag.holder}`}
              </span>
              <span className="text-muted">{tag.batch}</span>
              {tag.fish && (
                <Button className="ml-auto" onClick={() => setFish(tag.fish)}>
                  Its fish
                </Button>
              )}
            </li>
          ))}
          {found.length === 100 && <li className="pt-1 text-muted">The first hundred; type more of the number.</li>}
        </ul>
      )}
      {moves && <TagMoves tag={moves} onClose={() => setMoves(null)} />}
      {fish && <FishStorySheet fish={fish} onClose={() => setFish(null)} />}
    </section>
  );
}
