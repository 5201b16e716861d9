import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import type { PanelProps } from "../handling/Kinds";
import { type CalledMark, readPit } from "../rules/marks";
import { permitsForTag } from "../rules/permits";
import { adviceFor } from "./advice";
import { giveTag } from "./give-tag";
import { TagAdvice } from "./TagAdvice";

type Stocked = Schemas["StockedTag"];

/** As many tags are offered for a few digits. */
export const OFFERED = 5;

/** Tags in stock whose number ends so; none for fewer than three signs. */
export function endingIn(stock: readonly Stocked[], typed: string): Stocked[] {
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
export function GiveTag({ store, view, capture }: Pick<PanelProps, "store" | "view" | "capture">) {
  const [typed, setTyped] = useState("");
  const fits = endingIn(view.document.marks.stock, typed);
  const known = wholeNumber(typed);
  const carried =
    known && view.document.marks.fish.some(({ marks }) => marks.some(({ number }) => number === known.number));
  const fresh = known && !carried && !fits.some(({ number }) => number === known.number) ? known : null;
  /** A tag that was chosen for a fish that should carry none: asked about before it goes in. */
  const [asked, setAsked] = useState<{ mark: CalledMark; inStock: boolean; words: string } | null>(null);
  const give = (mark: CalledMark, inStock: boolean) => {
    void giveTag(store, capture, mark, inStock);
    setTyped("");
    setAsked(null);
  };
  const choose = (mark: CalledMark, inStock: boolean) => {
    const advice = capture.placed.length ? null : adviceFor(view.document, capture, mark.kind);
    if (advice && !advice.tag) setAsked({ mark, inStock, words: advice.words });
    else give(mark, inStock);
  };
  const over = permitsForTag(view.document, capture).find((each) => each.standing === "over");
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
          <Button key={tag.number} large look="ink" onClick={() => choose(tag, true)}>
            {KINDS[tag.kind]} {markText(tag)}
          </Button>
        ))}
        {fresh && (
          <Button large onClick={() => choose(fresh, false)}>
            {KINDS[fresh.kind]} {markText(fresh)}, new to the stock
          </Button>
        )}
        {fits.length > OFFERED && <span className="text-muted">{fits.length} tags end so: type more digits.</span>}
        {carried && <span className="text-signal">That tag sits in a fish already.</span>}
        {!fits.length && !known && typed.trim().length > 2 && (
          <span className="text-muted">No tag in stock ends so; type the whole number of a new one.</span>
        )}
      </div>
      {asked ? (
        <div
          role="alert"
          className="mt-1 flex flex-wrap items-center gap-2 border-l-4 border-signal pl-2 font-semibold"
        >
          ! No tag for this fish: {asked.words}.
          <Button large onClick={() => give(asked.mark, asked.inStock)}>
            {markText(asked.mark)} goes in all the same
          </Button>
          <Button large look="ink" onClick={() => setAsked(null)}>
            Leave it untagged
          </Button>
        </div>
      ) : (
        <TagAdvice deck={view.document} capture={capture} />
      )}
      {over && (
        <p className="mt-1 font-semibold text-signal">
          ! {over.allowance.permit} allows {over.allowance.most} {over.allowance.species_name} {over.allowance.what};{" "}
          {over.before} are counted.
        </p>
      )}
      {!capture.scanned && (
        <p className="mt-1 text-sm text-muted">
          Scan the fish first. With the tag it is kept that nothing was found; where there was something, read it on the
          call line.
        </p>
      )}
    </section>
  );
}
