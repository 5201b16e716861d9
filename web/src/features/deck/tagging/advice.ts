import { detailsByKind } from "../handling/events";
import { ownLength } from "../rules/own-length";
import { type TagProposal, tagProposal, unfitForTag } from "../rules/tagging";
import type { Deck } from "../scope";

type Capture = Deck["captures"][number];

/** Whether a fish that was kept may carry a tag, by all that was said of it; null where nothing speaks for or against. */
export function adviceFor(deck: Deck, capture: Capture, kind?: string): TagProposal | null {
  const species = deck.species.find(({ code }) => code === capture.species);
  const unfit = unfitForTag(detailsByKind(deck.events, capture.id), capture.strength ?? null, capture.release);
  const own =
    species && capture.length_mm !== null ? ownLength(capture.length_mm, capture.length_type ?? "", species) : null;
  if (own === null && !unfit.length) return null;
  // a fish of unknown length may be as long as it needs to be: only its state speaks
  return tagProposal(deck, {
    species: capture.species,
    mm: own?.mm ?? Number.POSITIVE_INFINITY,
    run: capture.run,
    unfit,
    ...(kind ? { kind } : {}),
  });
}
