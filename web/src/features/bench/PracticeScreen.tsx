import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { DeckStore, fetchOutings, realPorts, useDeckView, WorkingDeck } from "@/features/deck";
import { useInstrumentsOf } from "@/features/instruments";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { NumberField } from "@/ui/NumberField";
import { formatGrams, formatMm } from "@/ui/words/format";
import { compare, eveningOf, fishOf } from "./evening";
import { practiceDeck, practicePorts } from "./practice-ports";
import { useEvening, useStandins } from "./use-evening";

/** The whole Deck to try: fish are called on the screen at a chosen pace, and nothing of it enters the record. */
export function PracticeScreen() {
  const { person, membership, may } = useHere();
  const { data, error } = useQuery({
    queryKey: ["practice", membership.programme],
    queryFn: async () => {
      const outings = await fetchOutings(membership.programme);
      const like = outings.find(({ state }) => state === "open") ?? outings[0];
      return like ? { like: like.id, deck: practiceDeck(await realPorts.load(like.id)) } : null;
    },
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [store, setStore] = useState<DeckStore | null>(null);
  const [asked, setAsked] = useState(false);
  const onInstruments = useCallback(() => setAsked(true), []);
  const { id, name } = person;
  const deck = data?.deck;
  useEffect(() => {
    if (!deck) return;
    let opened: DeckStore | null = null;
    void DeckStore.open(deck.outing.id, { id, name }, practicePorts(deck)).then((made) => {
      opened = made;
      setStore(made);
    });
    return () => opened?.close();
  }, [deck, id, name]);
  if (error)
    return (
      <main className="p-6">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!may("work_deck")) return <main className="p-6">Practice is for whoever may work the Deck.</main>;
  if (data === null)
    return <main className="p-6">Practice uses the species and tags of an outing: open one first.</main>;
  if (!store) return <main className="p-6 text-muted">Opening practice...</main>;
  return (
    <>
      <Caller store={store} like={data!.like} asked={asked} />
      <WorkingDeck store={store} practice heardAs={data!.like} onInstruments={onInstruments} />
    </>
  );
}

/** Calls the fish, and tells in the end how well they were kept. */
function Caller({ store, like, asked }: { store: DeckStore; like: string; asked: boolean }) {
  const { document: deck } = useDeckView(store);
  const { data, isError } = useInstrumentsOf(like, true);
  // what instruments read of a fish that is called before they are heard would be lost
  const ready = isError || data?.stream === "" || asked;
  const { tell, problem } = useStandins(data?.play ?? "");
  const { species, marks } = deck;
  const own = marks.stock.find(({ kind }) => kind === "pit")?.number;
  const evening = useMemo(() => eveningOf(species, own), [species, own]);
  const { called, steps, play, stop } = useEvening(evening, tell);
  const [seconds, setSeconds] = useState<number | null>(12);
  const { right, missing, odd } = compare(fishOf(evening, steps), deck.captures);
  const words = (fish: { species: string; length_mm: number | null; mass_g: number | null }) =>
    [
      fish.species,
      fish.length_mm !== null && formatMm(fish.length_mm),
      fish.mass_g !== null && formatGrams(fish.mass_g),
    ]
      .filter(Boolean)
      .join(" ");
  return (
    <section
      aria-label="Practice"
      className="flex flex-wrap items-end gap-x-4 gap-y-1 border-b-4 border-signal px-4 py-2"
    >
      <p className="self-center font-semibold text-signal">
        Practice: nothing here enters the record, and it is gone when you leave this page.
      </p>
      <NumberField live label="A fish every" unit="s" value={seconds} onNumber={setSeconds} />
      {called ? (
        <Button large look="ink" onClick={stop}>
          Stop and compare
        </Button>
      ) : (
        // the call line keeps the cursor
        <Button
          large
          look="ink"
          disabled={!ready}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => play(seconds ?? 12)}
        >
          Call fish to me
        </Button>
      )}
      <p aria-live="polite" className="basis-full text-2xl">
        {called && `"${called}"`}
      </p>
      {!called && steps > 0 && (
        <div role="status" className="basis-full">
          <p className="font-semibold">
            {right} of {right + missing.length} fish kept as they were called.
          </p>
          {missing.length > 0 && <p>Called and not kept so: {missing.map(words).join("; ")}.</p>}
          {odd.length > 0 && <p>Kept and not called so: {odd.map(words).join("; ")}.</p>}
        </div>
      )}
      {problem && <p className="text-signal">{problem}</p>}
    </section>
  );
}
