import type { Schemas } from "@/api/schemas";
import type { Deck } from "../scope";
import { countedFish, withinQuota } from "./counted";
import { zonesOf } from "./orders";

type Quota = Schemas["Quota"];

/** The quota that a fish of this length in this zone falls under, were it tagged, the narrowest first; null where there is none. */
export function quotaFor(quotas: readonly Quota[], species: string, mm: number, zone: string): Quota | null {
  const fish = { species, length_mm: mm, measured: true, mass_g: null, marked: true, fate: "", zone };
  const fit = quotas.filter((each) => withinQuota(each, fish));
  const rank = (each: Quota) => (each.species ? 2 : 0) + (each.zone ? 1 : 0);
  return fit.reduce<Quota | null>((best, each) => (!best || rank(each) > rank(best) ? each : best), null);
}

/** Whether this fish is to get a tag, and how that stands; null where the plan and the protocol say nothing of it. */
export function tagProposal(
  deck: Pick<Deck, "quotas" | "orders" | "captures" | "runs" | "sites">,
  species: string,
  mm: number,
  run: Schemas["Run"] | undefined,
): { tag: boolean; words: string } | null {
  const from = deck.orders?.mark_from_mm;
  if (from != null && mm < from) return { tag: false, words: `under the plan's ${from} mm` };
  const zone = zonesOf(deck.runs, deck.sites);
  const quota = quotaFor(deck.quotas ?? [], species, mm, run ? zone(run.id) : "");
  const tagged = deck.captures.filter(({ placed }) => placed.length > 0);
  const of = [...draw(deck.orders?.tags, tagged.length + 1)];
  if (!quota) return of.length ? { tag: true, words: of.join(", ") } : null;
  const here = tagged.filter((each) => withinQuota(quota, countedFish(each, zone(each.run)))).length;
  const done = quota.placed + here;
  const where = `${done} of ${quota.most}${quota.zone ? ` in ${quota.zone}` : ""}`;
  if (done >= quota.most) return { tag: false, words: `quota full, ${where}` };
  return { tag: true, words: [where, ...of].join(", ") };
}

/** What was drawn for the nth fish that is tagged. */
function* draw(tags: Schemas["TagOrders"] | null | undefined, nth: number) {
  if (!tags) return;
  const place = tags.before + nth;
  if (tags.double.includes(place)) yield "two tags";
  if (tags.high_reward.includes(place)) yield "high reward";
}
