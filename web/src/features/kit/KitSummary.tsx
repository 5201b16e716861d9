import type { Schemas } from "@/api/client";
import { formatDay, formatInterval, plural } from "@/ui/words/format";
import { KINDS } from "@/ui/words/tag-kinds";
import { useKitSummary } from "./use-kit";

/** What became of one's fish, and how one reads a board: for oneself, before anybody compares. */
export function KitSummary({ kit }: { kit: string }) {
  const { data, error } = useKitSummary(kit);
  if (error) return <p className="pt-6 text-sm text-muted">What became of your fish: available when online.</p>;
  if (!data || (!data.cards && !data.tagging.length)) return null;
  return (
    <section aria-label="My fish" className="mt-6">
      <h2 className="text-lg font-semibold">My fish</h2>
      {data.cards > 0 && (
        <p>
          {plural(data.fish, "fish", "fish")} with a tag{data.since && ` since ${formatDay(data.since)}`}, from{" "}
          {plural(data.cards, "card")}.{" "}
          {data.returns
            ? `${plural(data.returns, "report")} of them came back. Thank you!`
            : "None has been reported yet. Thank you!"}
          {data.furthest_m !== null &&
            ` The longest way between two meetings: ${(data.furthest_m / 1000).toFixed(1)} km.`}
        </p>
      )}
      {data.tagging.map((each) => (
        <OwnTags key={each.kind} tags={each} />
      ))}
      <Precision measured={data.measured} digits={data.digits} />
    </section>
  );
}

/** Tags of one kind placed by oneself: how well, and how many stayed. */
function OwnTags({ tags }: { tags: Schemas["OwnTagging"] }) {
  const { kind, placed, good, doubtful, second, seen, kept, share, lower, upper } = tags;
  const quality = [good && `${good} good`, doubtful && `${doubtful} doubtful`, second && `${second} at the second try`];
  const words = quality.filter(Boolean).join(", ");
  return (
    <p className="pt-1">
      <strong>{KINDS[kind]}</strong>: {plural(placed, "tag")} placed by you{words && ` (${words})`}.{" "}
      {share === null
        ? "None has been met again and known by another mark yet."
        : `Of ${seen} met again and known by another mark, ${kept} ${kept === 1 ? "was" : "were"} still there: ${formatInterval(share, lower, upper, 0)} %.`}
    </p>
  );
}

function Precision({ measured, digits }: Pick<Schemas["KitSummary"], "measured" | "digits">) {
  if (!digits)
    return (
      <p className="pt-1 text-sm text-muted">
        {measured} of 30 measured fish so far; then you see here how evenly you read your board.
      </p>
    );
  const most = Math.max(...digits.counts);
  const share = `${Math.round(digits.share_0_5 * 100)} %`;
  return (
    <figure className="pt-2">
      <figcaption>
        {digits.preferred
          ? `Your lengths end in 0 or 5 in ${share} of fish; a fifth would be even. Read the board to the millimetre while the fish is calm.`
          : `Your last digits are even: ${share} end in 0 or 5 (p = ${digits.p.toFixed(2)}).`}
      </figcaption>
      <div
        className="mt-1 flex h-16 items-end gap-1"
        role="img"
        aria-label={`Last digits 0 to 9: ${digits.counts.join(", ")} fish`}
      >
        {digits.counts.map((n, digit) => (
          <span key={digit} className="flex flex-1 flex-col items-center justify-end text-xs">
            <span className="w-full bg-data" style={{ height: `${(44 * n) / most}px` }} />
            {digit}
          </span>
        ))}
      </div>
      <p className="text-xs text-muted">Last digit of your lengths (mm), {measured} fish</p>
    </figure>
  );
}
