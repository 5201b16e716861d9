import type { Schemas } from "@/api/schemas";
import type { Deck } from "../scope";
import type { Question } from "./believability";
import { type CountedFish, countedFish, KILLED, withinQuota } from "./counted";
import type { Recognised } from "./marks";
import { zonesOf } from "./orders";
import { protocolRows, type Row } from "./protocol";
import tables from "./rule-tables.gen.json";

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
  why: "species" | "small" | "unfit" | "full" | "quota" | "drawn" | "";
  done: number;
  drawn: Drawn[];
  quota: Quota | null;
}

type Drawn = "double" | "high_reward";

/** The one limit that holds where several stand: the largest. */
export function smallestToTag(...limits: (number | null | undefined)[]): number | null {
  const known = limits.filter((each) => each != null);
  return known.length ? Math.max(...known) : null;
}

/** The smallest length of a species that carries a kind of tag by the protocol; null where it says nothing. */
export function tagSize(rows: readonly Row[], species: string, kind: string): number | null {
  const fit = rows.filter(
    (row) => [species, ""].includes(String(row.species)) && [kind, ""].includes(String(row.kind ?? "")),
  );
  const rank = (row: Row) => (row.species === species ? 2 : 0) + (row.kind ? 1 : 0);
  const best = fit.reduce<Row | null>((best, row) => (!best || rank(row) > rank(best) ? row : best), null);
  return best && Number(best.from_mm);
}

export type Unfit = keyof typeof UNFIT;

const UNFIT = {
  dying: "dead, or going weakly",
  not_ready: "not ready to go",
  gills_stopped: "gills stopped",
  bleeding: "it bleeds",
  hurt: "a heavy wound",
  hook: "hooked deep or in the gills",
  reflexes: "half of its reflexes or more impaired",
};

type DetailsByKind = Partial<Record<string, readonly Record<string, unknown>[]>>;

/** Why a fish should be looked at again before a tag goes in; empty where nothing was said. */
export function unfitForTag(details: DetailsByKind, condition: number | null, fate: string): Unfit[] {
  const last = (kind: string) => details[kind]?.at(-1) ?? {};
  const { tried = [], impaired = [] } = last("reflexes") as { tried?: string[]; impaired?: string[] };
  const found = details.found ?? [];
  const reasons: Record<Unfit, boolean> = {
    dying: KILLED.includes(fate) || (condition ?? 0) >= 3,
    not_ready: last("ready").ready === "no",
    gills_stopped: last("stage").stage === "6",
    bleeding: found.some(({ what }) => what === "bleeding"),
    hurt: found.some(({ degree }) => degree === "heavy"),
    hook: ["gills", "deep"].includes(String(last("hook").site)),
    reflexes: tried.length > 0 && impaired.length >= tables.tagging.unfit_reflexes * tried.length,
  };
  return (Object.keys(UNFIT) as Unfit[]).filter((reason) => reasons[reason]);
}

/** Which of the plan's fish the next one is, from 1: those of other species have no place in its draw. */
export function placeInDraw(tagged: readonly Pick<CountedFish, "species">[], wanted: readonly string[]): number {
  return 1 + tagged.filter(({ species }) => !wanted.length || wanted.includes(species)).length;
}

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
  /** The smallest that carries a tag. */
  from: number | null;
  drawn: Drawn[];
  /** Species that the plan tags; empty: any. */
  wanted: readonly string[];
  unfit: readonly Unfit[];
}

const no = (why: Proposal["why"]): Proposal => ({ tag: false, why, done: 0, drawn: [], quota: null });

export function propose({ species, mm, zone, tagged, quotas, from, drawn, wanted, unfit }: Asked): Proposal {
  if (wanted.length && !wanted.includes(species)) return no("species");
  if (from !== null && mm < from) return no("small");
  if (unfit.length) return no("unfit");
  const quota = quotaFor(quotas, species, mm, zone);
  if (!quota) return { tag: drawn.length > 0, why: drawn.length ? "drawn" : "", done: 0, drawn, quota };
  const done = quota.placed + tagged.filter((each) => withinQuota(quota, each)).length;
  if (done >= quota.most) return { tag: false, why: "full", done, drawn: [], quota };
  return { tag: true, why: "quota", done, drawn, quota };
}

type DeckForTags = Pick<Deck, "quotas" | "orders" | "captures" | "runs" | "sites" | "species" | "protocol">;

/** The smallest length of a species that carries a tag, and who says so: the plan, the protocol, or the species itself. */
export function tagLimit(deck: DeckForTags, species: string, kind = ""): { mm: number; whose: string } | null {
  const wanted = deck.orders?.tags?.species ?? [];
  if (wanted.length && !wanted.includes(species)) return null; // it carries none, of whatever length
  const plan = deck.orders?.mark_from_mm;
  const protocol = tagSize(protocolRows(deck, "tag_sizes"), species, kind);
  const own = deck.species.find(({ code }) => code === species)?.smallest_to_tag_mm;
  const mm = smallestToTag(plan, protocol, own);
  return mm === null ? null : { mm, whose: mm === plan ? "plan's" : mm === protocol ? "protocol's" : "species'" };
}

export interface FishToTag {
  species: string;
  /** In its species' own length type. */
  mm: number;
  run?: Schemas["Run"]["id"];
  /** Of the tag, where it is known already. */
  kind?: string;
  unfit?: readonly Unfit[];
}

/** A proposal with its words. */
export interface TagProposal {
  tag: boolean;
  why: Proposal["why"];
  words: string;
}

/** Whether a fish is to be tagged; null where plan, protocol and species say nothing of it. */
export function tagProposal(deck: DeckForTags, { species, mm, run, kind, unfit = [] }: FishToTag): TagProposal | null {
  const zone = zonesOf(deck.runs, deck.sites);
  const tagged = deck.captures
    .filter(({ placed }) => placed.length > 0)
    .map((each) => countedFish(each, zone(each.run)));
  const limit = tagLimit(deck, species, kind);
  const tags = deck.orders?.tags;
  const wanted = tags?.species ?? [];
  const { tag, why, done, drawn, quota } = propose({
    species,
    mm,
    zone: run ? zone(run) : "",
    tagged,
    quotas: deck.quotas ?? [],
    from: limit?.mm ?? null,
    drawn: tags ? drawnFor(placeInDraw(tagged, wanted), tags) : [],
    wanted,
    unfit,
  });
  const where = quota ? `${done} of ${quota.most}${quota.zone && ` in ${quota.zone}`}` : "";
  const words = drawn.map((each) => DRAWN[each]);
  switch (why) {
    case "species":
      return { tag, why, words: `the plan tags ${speciesNames(deck, wanted)}` };
    case "small":
      return { tag, why, words: `under ${limit?.mm} mm, the ${limit?.whose} limit` };
    case "unfit":
      return { tag, why, words: unfit.map((each) => UNFIT[each]).join(", ") };
    case "full":
      return { tag, why, words: `quota full, ${where}` };
    case "quota":
      return { tag, why, words: [where, ...words].join(", ") };
    case "drawn":
      return { tag, why, words: words.join(", ") };
    default:
      return null;
  }
}

/** Names of species by their codes. */
export function speciesNames({ species }: Pick<Deck, "species">, codes: readonly string[]): string {
  return codes.map((code) => species.find((each) => each.code === code)?.name ?? code).join(", ");
}

const DRAWN: Record<Drawn, string> = { double: "two tags", high_reward: "high reward" };

/** The question to ask before a tag from stock goes into a fish that should carry none. */
export function tagQuestion(proposal: TagProposal | null, recognised: readonly Recognised[]): Question | null {
  if (!proposal || proposal.tag || !proposal.why || !recognised.some(({ meaning }) => meaning === "stock")) return null;
  return {
    code: QUESTIONS[proposal.why as keyof typeof QUESTIONS],
    weight: "ask",
    message: `No tag for this fish: ${proposal.words}.`,
  };
}

const QUESTIONS = {
  species: "species_for_tag",
  small: "small_for_tag",
  unfit: "unfit_for_tag",
  full: "quota_full",
} as const;
