import type { Schemas } from "@/api/schemas";
import type { Deck } from "../scope";
import { type CountedFish, countedFish, withinQuota } from "./counted";
import { zonesOf } from "./orders";

type Quota = Schemas["Quota"];

/** The quota that a fish of this length in this zone falls under, were it tagged, the narrowest first; null where there is none. */
export function quotaFor(quotas: readonly Quota[], species: string, mm: number, zone: string): Quota | null {
  const fish = { species, length_mm: mm, measured: true, mass_g: null, marked: true, fate: "", zone };
  const fit = quotas.filter((each) => withinQuota(each, fish));
  const rank = (each: Quota) => (each.species ? 2 : 0) + (each.zone ? 1 : 0);
  return fit.reduce<Quota | null>((best, each) => (!best || rank(each) > rank(best) ? each : best), null);
}

/** Whether a fish is to be tagged, and why: core's `deck.tagging.Proposal`. */
export interface Proposal {
  tag: boolean;
  why: "small" | "full" | "quota" | "drawn" | "";
  done: number;
  drawn: Drawn[];
  quota: Quota | null;
}

type Drawn = "double" | "high_reward";

/** What the draw gave to the nth fish that this outing tags, after `before` of other outings. */
export function drawnFor(
  nth: number,
  { before, double, high_reward }: Pick<Schemas["TagOrders"], "before" | "double" | "high_reward">,
): Drawn[] {
  const place = before + nth;
  const drawn: Drawn[] = [];
  if (double.includes(place)) drawn.push("double");
  if (high_reward.includes(place)) drawn.push("high_reward");
  return drawn;
}

interface Asked {
  species: string;
  mm: number;
  zone: string;
  /** Fish of this outing that have a tag already. */
  tagged: readonly CountedFish[];
  quotas: readonly Quota[];
  /** The smallest that the plan tags. */
  from: number | null;
  drawn: Drawn[];
}

export function propose({ species, mm, zone, tagged, quotas, from, drawn }: Asked): Proposal {
  if (from !== null && mm < from) return { tag: false, why: "small", done: 0, drawn: [], quota: null };
  const quota = quotaFor(quotas, species, mm, zone);
  if (!quota) return { tag: drawn.length > 0, why: drawn.length ? "drawn" : "", done: 0, drawn, quota };
  const done = quota.placed + tagged.filter((each) => withinQuota(quota, each)).length;
  if (done >= quota.most) return { tag: false, why: "full", done, drawn: [], quota };
  return { tag: true, why: "quota", done, drawn, quota };
}

/** The same in words; null where the plan and the protocol say nothing of it. */
export function tagProposal(
  deck: Pick<Deck, "quotas" | "orders" | "captures" | "runs" | "sites">,
  species: string,
  mm: number,
  run: Schemas["Run"] | undefined,
): { tag: boolean; words: string } | null {
  const zone = zonesOf(deck.runs, deck.sites);
  const tagged = deck.captures
    .filter(({ placed }) => placed.length > 0)
    .map((each) => countedFish(each, zone(each.run)));
  const from = deck.orders?.mark_from_mm ?? null;
  const tags = deck.orders?.tags;
  const found = propose({
    species,
    mm,
    zone: run ? zone(run.id) : "",
    tagged,
    quotas: deck.quotas ?? [],
    from,
    drawn: tags ? drawnFor(tagged.length + 1, tags) : [],
  });
  const where = found.quota
    ? `${found.done} of ${found.quota.most}${found.quota.zone && ` in ${found.quota.zone}`}`
    : "";
  const drawn = found.drawn.map((each) => DRAWN[each]);
  switch (found.why) {
    case "small":
      return { tag: false, words: `under the plan's ${from} mm` };
    case "full":
      return { tag: false, words: `quota full, ${where}` };
    case "quota":
      return { tag: true, words: [where, ...drawn].join(", ") };
    case "drawn":
      return { tag: true, words: drawn.join(", ") };
    default:
      return null;
  }
}

const DRAWN: Record<Drawn, string> = { double: "two tags", high_reward: "high reward" };
