import { useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { HoldingCards } from "../cards/HandCards";
import { PlacingCard } from "../cards/PlacingCard";
import { Kinds, type PanelProps } from "../handling/Kinds";
import { describeTag } from "../operations/tag-describe";
import { shedTag } from "../operations/tag-shed";
import { spoilTag } from "../operations/tag-spoil";
import type { CalledMark } from "../rules/marks";
import { protocolRows } from "../rules/protocol";
import { endingIn, GiveTag, OFFERED } from "./GiveTag";

const QUALITIES = [
  ["good", "good"],
  ["doubtful", "doubtful"],
  ["second", "second try"],
] as const;

/** The tags this fish was given: where each sits, how well; the card of its kind. */
export function TagPanel(props: PanelProps) {
  const { store, view, capture } = props;
  const sites = protocolRows(view.document, "body_sites");
  return (
    <div className="grid gap-3">
      <GiveTag store={store} view={view} capture={capture} />
      {!capture.placed.length && <NextTag view={view} />}
      <Carried store={store} view={view} capture={capture} />
      {capture.placed.map((tag) => (
        <section key={tag.number} aria-label={`Tag ${tag.number}`} className="border-b border-line pb-2">
          <h3 className="font-semibold">
            {KINDS[tag.kind]} {markText(tag)}
          </h3>
          <PlacingCard kind={tag.kind} />
          <fieldset className="mt-1 flex flex-wrap gap-1.5">
            <legend className="text-sm text-muted">Where it sits</legend>
            {sites.map(({ code, word }) => (
              <Button
                key={String(code)}
                large
                look={tag.body_site === code ? "ink" : "plain"}
                aria-pressed={tag.body_site === code}
                onClick={() => void describeTag(store, capture.id, tag, { body_site: String(code) })}
              >
                {String(word)}
              </Button>
            ))}
          </fieldset>
          <fieldset className="mt-1 flex flex-wrap gap-1.5">
            <legend className="text-sm text-muted">How well</legend>
            {QUALITIES.map(([code, word]) => (
              <Button
                key={code}
                large
                look={tag.quality === code ? "ink" : "plain"}
                aria-pressed={tag.quality === code}
                onClick={() => void describeTag(store, capture.id, tag, { quality: code })}
              >
                {word}
              </Button>
            ))}
          </fieldset>
        </section>
      ))}
      <Kinds {...props} groups={["tag"]} />
      <Spoiled store={store} view={view} />
    </div>
  );
}

/** The cards before the hand moves: of the kind that the plan tags with, or that was placed last; how a fish is held. */
function NextTag({ view: { document: deck } }: Pick<PanelProps, "view">) {
  const kinds = [...new Set(deck.marks.stock.map(({ kind }) => kind))];
  const last = deck.captures.findLast(({ placed }) => placed.length > 0)?.placed.at(-1)?.kind;
  const planned = deck.orders?.tags?.kind === "visible" ? "tbar" : deck.orders?.tags?.kind;
  const kind = kinds.find((each) => each === planned) ?? last ?? kinds[0];
  if (!kind) return null;
  return (
    <section aria-label="How it is placed" className="grid gap-2 border-b border-line pb-3">
      <h3 className="font-semibold">{KINDS[kind]}: placing it</h3>
      <PlacingCard kind={kind} />
      <details className="group">
        <summary className="flex min-h-[44px] cursor-pointer items-center font-semibold">
          <span className="mr-1 inline-block group-open:rotate-90">▸</span> Hold and lift
        </summary>
        <HoldingCards />
      </details>
    </section>
  );
}

/** The tags that a fish met again is known to carry; one that is not on it any more is lost by one touch. */
function Carried({ store, view, capture }: Pick<PanelProps, "store" | "view" | "capture">) {
  const [lost, setLost] = useState<CalledMark[]>([]);
  const { fish } = capture;
  const known = fish ? view.document.marks.fish.find(({ id }) => id === fish) : undefined;
  if (!fish || !known || capture.scanned !== "known") return null;
  const shed = (mark: CalledMark, now: boolean) => {
    void shedTag(store, { id: capture.id, fish }, mark, now);
    setLost(now ? [...lost, mark] : lost.filter(({ number }) => number !== mark.number));
  };
  return (
    <section aria-label="Tags it is known to carry" className="grid gap-1 border-b border-line pb-3">
      {known.marks
        .filter(({ number, unknown }) => !unknown && !lost.some((each) => each.number === number))
        .map((mark) => (
          <p key={mark.number} className="flex flex-wrap items-center gap-3">
            {KINDS[mark.kind]} {markText(mark)}
            {capture.scans.some(({ number }) => number === mark.number) ? (
              <span className="text-muted">read today</span>
            ) : (
              <Button large onClick={() => shed(mark, true)}>
                It is not on it any more
              </Button>
            )}
          </p>
        ))}
      {lost.map((mark) => (
        <p key={mark.number} className="flex flex-wrap items-center gap-3">
          {KINDS[mark.kind]} {markText(mark)} is lost.
          <Button onClick={() => shed(mark, false)}>It is there after all</Button>
        </p>
      ))}
    </section>
  );
}

/** A tag that was bent, dropped or misfired leaves the stock, so that nobody looks for it in a fish. */
function Spoiled({ store, view }: Pick<PanelProps, "store" | "view">) {
  const [typed, setTyped] = useState("");
  const [gone, setGone] = useState<(typeof view.document.marks.stock)[number][]>([]);
  const end = typed.trim();
  const fits = endingIn(view.document.marks.stock, typed);
  return (
    <section aria-label="A tag was spoiled" className="border-t border-line pt-2">
      <div className="flex flex-wrap items-end gap-2">
        <Field
          label="A tag was spoiled: its last digits"
          maxLength={24}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {fits.slice(0, OFFERED).map((tag) => (
          <Button
            key={tag.number}
            large
            onClick={() => {
              void spoilTag(store, tag, true);
              setGone([...gone, tag]);
              setTyped("");
            }}
          >
            {KINDS[tag.kind]} {markText(tag)} spoiled
          </Button>
        ))}
        {fits.length > OFFERED && <span className="text-muted">{fits.length} tags end so: type more digits.</span>}
        {end.length >= 3 && !fits.length && <span className="text-signal">No tag in stock ends so.</span>}
      </div>
      {gone.map((tag) => (
        <p key={tag.number} className="mt-1 flex items-center gap-2">
          {KINDS[tag.kind]} {markText(tag)} is out of stock: spoiled.
          <Button
            onClick={() => {
              void spoilTag(store, tag, false);
              setGone(gone.filter((each) => each !== tag));
            }}
          >
            Usable after all
          </Button>
        </p>
      ))}
    </section>
  );
}
