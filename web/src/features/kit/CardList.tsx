import { useState } from "react";
import type { Operation } from "@/offline/operation";
import { Button } from "@/ui/Button";
import { CardItem } from "./CardItem";
import { CardSheet } from "./CardSheet";
import type { KitStore } from "./kit-store";
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
  const refusalOf = (card: Card) =>
    refused.find(({ id, row }) => id === card.id || row.card === card.id)?.error?.message;
  return (
    <section aria-label="My cards" className="mt-6">
      <h2 className="text-lg font-semibold">My cards</h2>
      <ul>
        {cards.map((card) => (
          <CardItem
            key={card.id}
            store={store}
            kit={kit}
            card={card}
            unsent={unsent}
            refusal={refusalOf(card)}
            onChange={() => setOpened(card)}
          />
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
