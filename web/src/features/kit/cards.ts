import type { Card, Kit } from "./scope";

/** What a card tells, as it is sent; `tagger` is the key of the kit. */
export interface CardRow {
  tagger?: string;
  number_text?: string;
  tag_kind?: Card["tag_kind"];
  species?: string;
  caught_on?: string;
  block?: string;
  lat?: number | null;
  lon?: number | null;
  error_m?: number | null;
  place_text?: string;
  length?: string;
  length_basis?: "measured" | "estimated";
  condition?: number | null;
  fight_s?: number | null;
  air_s?: number | null;
  hook_kind?: Card["hook_kind"];
  hook_site?: Card["hook_site"];
  line_kg?: number | null;
  bleeding_landed?: Card["bleeding_landed"];
  bleeding_released?: Card["bleeding_released"];
  remarks?: string;
  met_again?: boolean;
  channel?: Card["channel"];
}

const MM_PER: Record<string, number> = { mm: 1, cm: 10, in: 25.4 };

/** Millimetres of a length as the pad writes it, such as "41.5 cm"; null where it is none. */
export function mmOf(text: string): number | null {
  const [value, unit = "mm"] = text.trim().split(/\s+/);
  const mm = Number(value) * (MM_PER[unit] ?? Number.NaN);
  return value && Number.isFinite(mm) && mm > 0 ? Math.round(mm * 10) / 10 : null;
}

const EMPTY: Omit<Card, "id" | "device_time"> = {
  channel: "phone",
  tagger_number: "",
  tag_kind: "",
  number_text: "",
  fish: null,
  problem: "",
  told_twice: false,
  met_again: false,
  species: "",
  caught_on: null,
  block: "",
  lat: null,
  lon: null,
  error_m: null,
  place_text: "",
  length_text: "",
  length_mm: null,
  length_type: "",
  length_basis: "",
  condition: null,
  fight_s: null,
  air_s: null,
  hook_kind: "",
  hook_site: "",
  line_kg: null,
  bleeding_landed: "",
  bleeding_released: "",
  remarks: "",
  missing: [],
  photos: [],
};

/** A card as it stands here until the server's copy comes: what the row tells over what there was. */
export function cardWith(kit: Kit, before: Partial<Card> & { id: string; device_time: string }, row: CardRow): Card {
  const { tagger: _, length, ...told } = row;
  const card: Card = { ...EMPTY, tagger_number: kit.tagger_number, ...before, ...told };
  if (length !== undefined) {
    card.length_text = length;
    card.length_mm = mmOf(length);
    card.length_type = kit.species.find(({ code }) => code === card.species)?.length_type ?? "";
    card.length_basis = length ? (row.length_basis ?? "measured") : "";
  }
  return card;
}

/** The kit with a card in its place, and its tag no longer among those to be placed. */
export function withCard(kit: Kit, card: Card): Kit {
  const others = kit.cards.filter(({ id }) => id !== card.id);
  const cards = [card, ...others].sort((a, b) => b.device_time.localeCompare(a.device_time));
  return { ...kit, cards, tags: kit.tags.filter(({ number }) => number !== card.number_text) };
}

/** The kit with one of its cards changed; as it is where it has no such card. */
export function changeCard(kit: Kit, card: string, change: (old: Card) => Card): Kit {
  return { ...kit, cards: kit.cards.map((each) => (each.id === card ? change(each) : each)) };
}

/** What speaks against a length of a species: beyond what there is it is not saved, out of the usual it is asked. */
export function doubtOf(kit: Kit, species: string, mm: number | null): { text: string; refused: boolean } | null {
  const kind = kit.species.find(({ code }) => code === species);
  if (!kind || mm === null) return null;
  const [least, most] = kind.length_bounds_mm as [number, number];
  if (mm < least || mm > most)
    return { text: `No ${kind.name} is ${mm} mm long: expected ${least} to ${most} mm.`, refused: true };
  const [low, high] = kind.length_range_mm as [number, number];
  if (mm < low || mm > high)
    return { text: `Unusual for a ${kind.name}: most are ${low} to ${high} mm. Look again.`, refused: false };
  return null;
}
