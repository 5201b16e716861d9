import { KINDS } from "@/ui/words/tag-kinds";
import { ownLength } from "../rules/own-length";
import { bandFor, protocolRows } from "../rules/protocol";
import type { Deck } from "../scope";
import { adviceFor } from "./advice";

type Props = { deck: Deck; capture: Deck["captures"][number] };

/** Which tag and head the protocol has for a fish of this species and length. */
function TagHead({ deck, capture }: Props) {
  const kind = deck.species.find(({ code }) => code === capture.species);
  const own = kind && capture.length_mm !== null ? ownLength(capture.length_mm, capture.length_type ?? "", kind) : null;
  const row = own && bandFor(protocolRows(deck, "tag_heads"), capture.species, own.mm);
  if (!row || capture.placed.length) return null;
  return (
    <p className="text-sm">
      By the protocol: <strong>{KINDS[row.kind as keyof typeof KINDS] ?? String(row.kind)}</strong>
      {row.how && `, ${row.how}`}.
    </p>
  );
}

/** Why this fish should carry no tag, said before a hand moves; nothing where it may. */
export function TagAdvice({ deck, capture }: Props) {
  const advice = capture.placed.length ? null : adviceFor(deck, capture);
  if (!advice || advice.tag) return <TagHead deck={deck} capture={capture} />;
  return (
    <p role="status" className="border-l-4 border-signal pl-2 font-semibold">
      ! No tag for this fish: {advice.words}.
    </p>
  );
}
