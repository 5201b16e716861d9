import { useState } from "react";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Field";
import { notify } from "@/ui/Notice";
import { Tick } from "@/ui/Tick";
import { KINDS } from "@/ui/words/tag-kinds";
import { type CardRow, doubtOf, mmOf } from "./cards";
import { FightClock } from "./FightClock";
import type { KitStore } from "./kit-store";
import { LengthPad } from "./LengthPad";
import { MoreOfCard, type MoreRow } from "./MoreOfCard";
import { deleteCard } from "./operations/card-delete";
import { recordCard } from "./operations/card-record";
import type { Kit } from "./scope";
import { usePosition } from "./use-position";

interface Props {
  store: KitStore;
  kit: Kit;
}

const NO_TAG = "none";

/** One fish, in the order of the hands: made ready before it, then species, length, condition, save. */
export function Catch({ store, kit }: Props) {
  const position = usePosition();
  const [chosenTag, setChosenTag] = useState<string | null>(null);
  const [species, setSpecies] = useState(kit.cards[0]?.species ?? "");
  const [digits, setDigits] = useState("");
  const [estimated, setEstimated] = useState(false);
  const [condition, setCondition] = useState<number | null>(null);
  const [fight_s, setFight] = useState<number | null>(null);
  const [more, setMore] = useState<MoreRow>({});
  // the tag that is loaded stays first in the order of the numbers, until it is placed
  const loaded = chosenTag === NO_TAG ? null : (kit.tags.find(({ number }) => number === chosenTag) ?? kit.tags[0]);
  const length = digits && `${digits} ${kit.length_unit}`;
  const doubt = doubtOf(kit, species, mmOf(length));
  const ready = Boolean(species && length && condition) && !doubt?.refused;

  const save = () => {
    const row: CardRow = {
      tagger: kit.id,
      ...(loaded ? { number_text: loaded.number, tag_kind: loaded.kind } : {}),
      species,
      length,
      length_basis: estimated ? "estimated" : "measured",
      condition,
      ...(position ?? {}),
      ...(fight_s === null ? {} : { fight_s }),
      ...more,
    };
    const key = recordCard(store, row);
    notify(`${loaded ? loaded.number : "Fish"} saved.`, () => {
      const card = store.view.document.cards.find(({ id }) => id === key);
      if (card) deleteCard(store, card);
    });
    setDigits("");
    setCondition(null);
    setFight(null);
    setEstimated(false);
    setMore(({ place_text, hook_kind, line_kg }) => ({ place_text, hook_kind, line_kg }));
    setChosenTag((tag) => (tag === NO_TAG ? NO_TAG : null));
    scrollTo(0, 0);
  };
  return (
    <section aria-label="Fish">
      <Ready kit={kit} loaded={loaded?.number ?? NO_TAG} onTag={setChosenTag} position={position} />
      <FightClock onFight={setFight} fight_s={fight_s} />
      <fieldset className="mt-3">
        <legend className="pb-1 font-semibold">Species</legend>
        <div className="flex flex-wrap gap-2">
          {kit.species.map(({ code, name }) => (
            <Button
              key={code}
              large
              look={code === species ? "ink" : "plain"}
              aria-pressed={code === species}
              onClick={() => setSpecies(code)}
            >
              {name}
            </Button>
          ))}
        </div>
      </fieldset>
      <LengthPad
        unit={kit.length_unit}
        type={kit.species.find(({ code }) => code === species)?.length_type ?? ""}
        digits={digits}
        onDigits={setDigits}
      />
      <Tick label="Estimated, not measured" checked={estimated} onChange={setEstimated} />
      {/* while the digits are being typed a length is short: what is unusual is asked when it stands */}
      {doubt && (doubt.refused || condition !== null) && (
        <p role="alert" className="text-signal">
          {doubt.text}
        </p>
      )}
      <fieldset className="mt-3">
        <legend className="pb-1 font-semibold">Condition at release</legend>
        <div className="grid grid-cols-2 gap-2">
          {kit.conditions.map(({ code, words }) => (
            <Button
              key={code}
              look={code === condition ? "ink" : "plain"}
              aria-pressed={code === condition}
              className="whitespace-normal! text-left"
              onClick={() => setCondition(code)}
            >
              {code} {words}
            </Button>
          ))}
        </div>
      </fieldset>
      <MoreOfCard values={more} onChange={(part) => setMore((old) => ({ ...old, ...part }))} />
      <Button look="ink" large className="mt-3 min-h-14 w-full text-lg" disabled={!ready} onClick={save}>
        {loaded ? `Save ${loaded.number}` : "Save fish without a tag"}
      </Button>
      {!ready && !doubt && <p className="pt-1 text-sm text-muted">Species, length and condition first.</p>}
    </section>
  );
}

interface ReadyProps {
  kit: Kit;
  loaded: string;
  onTag: (number: string) => void;
  position: { error_m: number } | null;
}

/** Before the fish: the tag loaded, the position taken, the board wet. */
function Ready({ kit, loaded, onTag, position }: ReadyProps) {
  const [wet, setWet] = useState(false);
  return (
    <fieldset className="mt-2 border-y border-line py-2">
      <legend className="sr-only">Before the fish</legend>
      <Choice label="Tag in the applicator" value={loaded} onChange={({ target }) => onTag(target.value)}>
        {kit.tags.map(({ kind, number }) => (
          <option key={`${kind} ${number}`} value={number}>
            {number} ({KINDS[kind]})
          </option>
        ))}
        <option value={NO_TAG}>No tag: catch and release only</option>
      </Choice>
      {!kit.tags.length && (
        <p className="pt-1 text-sm text-muted">No tags are handed out to you. Ask your programme for a kit.</p>
      )}
      <p className="pt-1 text-sm" role="status">
        {position
          ? `Position taken, good to ${position.error_m} m.`
          : "No position yet: describe the place below, or wait for it."}
      </p>
      <Tick label="Board wet, tag loaded straight" checked={wet} onChange={setWet} />
    </fieldset>
  );
}
