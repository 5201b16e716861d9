import { plural } from "@/ui/words/format";
import { aboardOf, type Token, tokensAt } from "../rules/lanes";
import type { Deck } from "../scope";

/** A fish that should be looked at before it goes with all others, and why. */
interface Doubtful {
  token: Token;
  why: string;
}

/** The fish that are aboard, and those of them that are late or came from depth and were not sent down. */
export function goingOf(deck: Deck, now_s: number): { all: Token[]; doubtful: Doubtful[] } {
  const aboard = aboardOf(deck);
  const all = [...tokensAt(aboard, Math.max(now_s, aboard.latest_s)).values()].flat();
  const deep = new Set(deck.events.filter(({ kind }) => kind === "depth").map(({ capture }) => capture));
  const doubtful = all.flatMap((token): Doubtful[] => {
    const why = [token.status === "over" && token.why, deep.has(token.capture.id) && "came from depth"].filter(Boolean);
    return why.length ? [{ token, why: why.join(", ") }] : [];
  });
  return { all, doubtful };
}

/** How many fish of which lanes. */
export function byLaneWords(tokens: readonly Token[]): string {
  const counts = new Map<string, number>();
  for (const { lane, capture } of tokens) counts.set(lane.word, (counts.get(lane.word) ?? 0) + (capture.count ?? 1));
  return [...counts].map(([lane, n]) => `${plural(n, "fish", "fish")} from ${lane}`).join(", ");
}
