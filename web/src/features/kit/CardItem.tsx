import { useState } from "react";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import { formatDay, plural } from "@/ui/words/format";
import { CardPhotos } from "./CardPhotos";
import type { KitStore } from "./kit-store";
import { deleteCard } from "./operations/card-delete";
import { editCard } from "./operations/card-edit";
import type { Card, Kit } from "./scope";

interface Props {
  store: KitStore;
  kit: Kit;
  card: Card;
  unsent: ReadonlySet<string>;
  /** Why the server did not accept something of it. */
  refusal: string | undefined;
  onChange: () => void;
}

/** One card in the list: what it says, what is missing or to be looked into, its photos. */
export function CardItem({ store, kit, card, unsent, refusal, onChange }: Props) {
  const [photos, setPhotos] = useState(false);
  const name = card.number_text || "without a tag";
  const n = card.photos.length + (card.waiting?.length ?? 0);
  const remove = () => {
    deleteCard(store, card);
    notify("Card deleted.", () => deleteCard(store, card, false));
  };
  return (
    <li className="border-t border-line py-1.5">
      <div className="flex flex-wrap items-center gap-2">
        <p className="basis-full sm:flex-1 sm:basis-0">
          <span className="font-semibold tabular-nums">{card.number_text || "No tag"}</span>{" "}
          {kit.species.find(({ code }) => code === card.species)?.name ?? card.species} {card.length_text}
          <span className="block text-sm text-muted">
            {card.caught_on ? formatDay(card.caught_on) : formatDay(card.device_time)}
            {unsent.has(card.id) && " · not sent yet"}
          </span>
        </p>
        <Button aria-expanded={photos} aria-label={`Photos of card ${name}`} onClick={() => setPhotos(!photos)}>
          {n ? plural(n, "photo") : "Photo"}
        </Button>
        <Button aria-label={`Change card ${name}`} onClick={onChange}>
          Change
        </Button>
        <Button aria-label={`Delete card ${name}`} onClick={remove}>
          Delete
        </Button>
      </div>
      {photos && <CardPhotos store={store} card={card} unsent={unsent} />}
      {card.missing.length > 0 && <p className="text-sm text-signal">Missing: {card.missing.join(", ")}.</p>}
      {card.problem && <p className="text-sm text-signal">{card.problem}</p>}
      {card.told_twice && !card.met_again && (
        <Button onClick={() => editCard(store, card.id, { met_again: true })}>I met it twice that day</Button>
      )}
      {card.met_again && (
        <p className="flex flex-wrap items-center gap-x-3 text-sm">
          A second meeting of that day.
          <Button onClick={() => editCard(store, card.id, { met_again: false })}>It is one, told twice</Button>
        </p>
      )}
      {refusal && <p className="text-sm text-signal">Not accepted: {refusal}</p>}
    </li>
  );
}
