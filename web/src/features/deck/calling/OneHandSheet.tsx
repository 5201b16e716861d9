import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Sheet } from "@/ui/Sheet";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import type { DeckView } from "../document/deck-store";
import { keyOf, leavingWords, waysToLeave } from "../rules/leaving";
import { Doubt, type DoubtProps, Understood } from "./CallLine";
import { lengthAfter, lineWith } from "./one-hand";

interface Props extends DoubtProps {
  view: DeckView;
  species: Schemas["DeckSpecies"][];
  onClose: () => void;
}

const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "0"];
/** So many tags of the stock are offered: those that are loaded next. */
const TAGS = 4;
/** For one person with one hand on the fish: a fish by touches alone, on one page, in the order of the hands. */
export function OneHandSheet({ view, species, onClose, ...doubt }: Props) {
  const { state } = doubt;
  const { call, setLine } = state;
  const { document: deck } = view;
  const write = (change: Parameters<typeof lineWith>[1]) => setLine(lineWith(call, change));
  const length = call.length?.text ?? "";
  const loaded = deck.marks.stock.slice(0, TAGS);
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="One hand"
      description="Top to bottom as the hands go: scan, measure, tag, let go. A reader fills in its number by itself."
    >
      <Step n={1} words="Species">
        {species.map(({ code, name }) => (
          <Choice key={code} on={call.species === code} onClick={() => write({ species: code })}>
            {name}
          </Choice>
        ))}
      </Step>
      <Step n={2} words="Scan">
        <Choice on={call.scanned === "none"} onClick={() => write({ scanned: call.scanned ? "" : "none" })}>
          Scanned, none found
        </Choice>
        {call.marks.map((mark) => (
          <span key={mark.number} className="self-center font-semibold">
            {markText(mark)}
          </span>
        ))}
      </Step>
      <Step n={3} words={`Length (${deck.outing.length_unit})`}>
        <output aria-label="Length" className="w-full text-3xl font-semibold tabular-nums">
          {length || "-"}
        </output>
        <div className="grid w-full grid-cols-6 gap-1.5">
          {DIGITS.map((digit) => (
            <Button
              key={digit}
              large
              className="min-h-14! text-xl"
              onClick={() => write({ lengthText: lengthAfter(length, digit) })}
            >
              {digit}
            </Button>
          ))}
          <Button
            large
            className="min-h-14!"
            aria-pressed={call.length?.estimated === true}
            aria-label="Estimated"
            onClick={() => write({ lengthText: lengthAfter(length, "~") })}
          >
            ~
          </Button>
          <Button
            large
            className="min-h-14!"
            aria-label="Erase last digit"
            onClick={() => write({ lengthText: lengthAfter(length, "back") })}
          >
            ⌫
          </Button>
        </div>
      </Step>
      {loaded.length > 0 && (
        <Step n={4} words="Tag">
          {loaded.map((tag) => {
            const on = call.marks.some(({ number }) => number === tag.number);
            const others = call.marks.filter(({ number }) => !loaded.some((each) => each.number === number));
            return (
              <Choice
                key={tag.number}
                on={on}
                onClick={() => write({ marks: on ? others : [...others, { kind: tag.kind, number: tag.number }] })}
              >
                {KINDS[tag.kind]} {markText(tag)}
              </Choice>
            );
          })}
        </Step>
      )}
      <Step n={loaded.length ? 5 : 4} words="Disposition">
        {waysToLeave(deck).map(({ key, leaving }) => {
          const on = call.release !== null && keyOf(call.release) === key;
          return (
            <Choice key={key} on={on} onClick={() => write({ release: on ? null : leaving })}>
              {leavingWords(deck, leaving)}
            </Choice>
          );
        })}
        <p className="w-full text-sm text-muted">Nothing chosen: it is still aboard.</p>
      </Step>
      <div className="sticky bottom-[-1.25rem] -mx-5 border-t border-ink bg-paper px-5 pt-2 pb-3">
        {!call.empty && <Understood state={state} />}
        <Doubt {...doubt} />
        <Button look="ink" large className="mt-2 min-h-16! w-full text-xl" disabled={call.empty} onClick={state.enter}>
          Save fish
        </Button>
      </div>
    </Sheet>
  );
}

function Step({ n, words, children }: { n: number; words: string; children: ReactNode }) {
  return (
    <fieldset className="mb-3 border-t border-line pt-1">
      <legend className="pr-2 text-sm font-semibold">
        {n} {words}
      </legend>
      <div className="flex flex-wrap gap-1.5">{children}</div>
    </fieldset>
  );
}

function Choice({ on, onClick, children }: { on: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <Button
      large
      className="min-h-14! min-w-fit flex-1"
      look={on ? "ink" : "plain"}
      aria-pressed={on}
      onClick={onClick}
    >
      {children}
    </Button>
  );
}
