import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { Kinds, type PanelProps } from "../handling/Kinds";
import { describeTag } from "../operations/tag-describe";
import { spoilTag } from "../operations/tag-spoil";
import { type CalledMark, readPit } from "../rules/marks";
import { protocolRows } from "../rules/protocol";
import { giveTag } from "./give-tag";

type Stocked = Schemas["StockedTag"];

const QUALITIES = [
  ["good", "good"],
  ["doubtful", "doubtful"],
  ["second", "second try"],
] as const;

/** How each kind of tag is held and set (common practice, no source). */
const CARDS: Record<string, string> = {
  tbar: "Below the dorsal spines, needle at 45 degrees toward the head; push until through, a quarter turn so that the bar catches a spine's base, tug gently.",
  dart: "Point beyond the tag, held by one light band; seat it straight below the dorsal fin, toward the head, and tug gently.",
  dart2: "Two barbs: firm push at 45 degrees toward the head, past the spines' bases; tug gently.",
  metal:
    "Sharks: at the base of the dorsal fin, a firmer push. Tunas: behind the second dorsal rays. Billfish: shoulder muscle.",
  disc: "Pin through the muscle below the dorsal fin, plates flat, with room to grow.",
  pit: "Lift a scale, needle toward the head, under the cheek muscle, into dorsal muscle or the body cavity as the protocol says; press the place after.",
  acoustic: "By surgery: see that tab. Heard before it goes in.",
  radio: "By surgery: see that tab. Aerial out behind the incision.",
  satellite: "Anchor in firm muscle below the dorsal fin; magnet off and transmission heard before.",
  archival: "By surgery, or as an external tag by its own card.",
};

/** The tags this fish was given: where each sits, how well; the card of its kind. */
export function TagPanel(props: PanelProps) {
  const { store, view, capture } = props;
  const sites = protocolRows(view.document, "body_sites");
  return (
    <div className="grid gap-3">
      <GiveTag store={store} view={view} capture={capture} />
      {capture.placed.map((tag) => (
        <section key={tag.number} aria-label={`Tag ${tag.number}`} className="border-b border-line pb-2">
          <h3 className="font-semibold">
            {KINDS[tag.kind]} {markText(tag)}
          </h3>
          <p className="text-sm text-muted">{CARDS[tag.kind]}</p>
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

/** As many tags are offered for a few digits. */
const OFFERED = 5;

/** Tags in stock whose number ends so; none for fewer than three signs. */
function endingIn(stock: readonly Stocked[], typed: string): Stocked[] {
  const end = typed.replace(/[\s#]/g, "").toUpperCase();
  return end.length < 3 ? [] : stock.filter(({ number }) => number.toUpperCase().endsWith(end));
}

/** A number that is whole in itself: 15 digits, or what can stand on a tag. */
function wholeNumber(typed: string): CalledMark | null {
  const pit = readPit(typed);
  if (pit) return { kind: "pit", number: pit };
  const number = typed.trim().replace(/^#/, "").toUpperCase();
  return /^[A-Z]+-?\d{3,}$/.test(number) ? { kind: "tbar", number } : null;
}

/** A tag for a fish that was kept: by its last digits from the stock, or one that nobody has entered yet. */
function GiveTag({ store, view, capture }: Pick<PanelProps, "store" | "view" | "capture">) {
  const [typed, setTyped] = useState("");
  const fits = endingIn(view.document.marks.stock, typed);
  const known = wholeNumber(typed);
  const carried =
    known && view.document.marks.fish.some(({ marks }) => marks.some(({ number }) => number === known.number));
  const fresh = known && !carried && !fits.some(({ number }) => number === known.number) ? known : null;
  const give = (mark: CalledMark, inStock: boolean) => {
    void giveTag(store, capture, mark, inStock);
    setTyped("");
  };
  return (
    <section aria-label="Give it a tag" className="border-b border-line pb-3">
      <div className="flex flex-wrap items-end gap-2">
        <Field
          label={
            capture.placed.length
              ? "Another tag: its number, or the last digits"
              : "Give it a tag: its number, or the last digits"
          }
          maxLength={24}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {fits.slice(0, OFFERED).map((tag) => (
          <Button key={tag.number} large look="ink" onClick={() => give(tag, true)}>
            {KINDS[tag.kind]} {markText(tag)}
          </Button>
        ))}
        {fresh && (
          <Button large onClick={() => give(fresh, false)}>
            {KINDS[fresh.kind]} {markText(fresh)}, new to the stock
          </Button>
        )}
        {fits.length > OFFERED && <span className="text-muted">{fits.length} tags end so: type more digits.</span>}
        {carried && <span className="text-signal">That tag sits in a fish already.</span>}
      </div>
      {!capture.scanned && (
        <p className="mt-1 text-sm text-muted">
          Scan the fish first. With the tag it is kept that nothing was found; where there was something, read it on the
          call line.
        </p>
      )}
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
