import { useState } from "react";
import type { Operation } from "@/offline/operation";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import { formatDay } from "@/ui/words/format";
import { CardSheet } from "./CardSheet";
import type { KitStore } from "./kit-store";
import { deleteCard } from "./operations/card-delete";
import { editCard } from "./operations/card-edit";
import type { Card, Kit } from "./scope";

interface Props {
  store: KitStore;
  kit: Kit;
  unsent: ReadonlySet<string>;
  refused: Operation[];
}

const SHOWN = 20;

/** One's cards, the newest first: what is not sent yet, what is missing, what was not accepted. */
export function CardList({ store, kit, unsent, refused }: Props) {
  const [opened, setOpened] = useState<Card | null>(null);
  const [all, setAll] = useState(false);
  if (!kit.cards.length) return null;
  const cards = all ? kit.cards : kit.cards.slice(0, SHOWN);
  const why = (card: Card) => refused.find(({ id, row }) => id === card.id || row.card === card.id)?.error?.message;
  const remove = (card: Card) => {
    deleteCard(store, card);
    notify("Card deleted.", () => deleteCard(store, card, false));
  };
  return (
    <section aria-label="My cards" className="mt-6">
      <h2 className="text-lg font-semibold">My cards</h2>
      <ul>
        {cards.map((card) => (
          <li key={card.id} className="border-t border-line py-1.5">
            <div className="flex items-center gap-2">
              <p className="flex-1">
                <span className="font-semibold tabular-nums">{card.number_text || "No tag"}</span>{" "}
                {kit.species.find(({ code }) => code === card.species)?.name ?? card.species} {card.length_text}
                <span className="block text-sm text-muted">
                  {card.caught_on ? formatDay(card.caught_on) : formatDay(card.device_time)}
                  {unsent.has(card.id) && " · not sent yet"}
                </span>
              </p>
              <Button aria-label={`Change card ${card.number_text || "without a tag"}`} onClick={() => setOpened(card)}>
                Change
              </Button>
              <Button aria-label={`Delete card ${card.number_text || "without a tag"}`} onClick={() => remove(card)}>
                Delete
              </Button>
            </div>
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
            {why(card) && <p className="text-sm text-signal">Not accepted: {why(card)}</p>}
          </li>
        ))}
      </ul>
      {kit.cards.length > cards.length && <Button onClick={() => setAll(true)}>Show all {kit.cards.length}</Button>}
      {opened && (
        <CardSheet
          card={opened}
          kit={kit}
          onClose={() => setOpened(null)}
          onSave={(row) => {
            editCard(store, opened.id, row);
            setOpened(null);
          }}
        />
      )}
    </section>
  );
}
