import type { Schemas } from "@/api/schemas";
import type { Deck } from "./scope";

type Quota = Schemas["Quota"];

/** The quota that a fish of this length in this reach falls under, the narrowest first; null where there is none for it. */
export function quotaFor(quotas: readonly Quota[], species: string, mm: number, reach: string): Quota | null {
  const fit = quotas.filter(
    (each) =>
      (!each.species || each.species === species) &&
      (!each.zone || each.zone.toLowerCase() === reach.toLowerCase()) &&
      mm >= each.from_mm &&
      (each.to_mm === null || mm < each.to_mm),
  );
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
  const reachOf = (id: string | undefined) => deck.sites.find((site) => site.id === id)?.reach ?? "";
  const siteOf = new Map(deck.runs.map(({ id, site }) => [id, site]));
  const reach = reachOf(run?.site);
  const quota = quotaFor(deck.quotas ?? [], species, mm, reach);
  const tagged = deck.captures.filter(({ placed }) => placed.length > 0);
  const of = [...draw(deck.orders?.tags, tagged.length + 1)];
  if (!quota) return of.length ? { tag: true, words: of.join(", ") } : null;
  const here = tagged.filter(
    (each) =>
      each.length_mm !== null &&
      quotaFor([quota], each.species, each.length_mm, reachOf(siteOf.get(each.run))) !== null,
  ).length;
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
