import type { ApiError, Schemas } from "@/api/client";
import { formatDay, whole } from "@/ui/words/format";
import { Numbers } from "../Numbers";
import type { Survey } from "../queries";

const TAG_KINDS = [
  ["", "none"],
  ["visible", "Visible numbered tag"],
  ["pit", "PIT tag"],
  ["acoustic", "Acoustic transmitter"],
  ["radio", "Radio transmitter"],
  ["satellite", "Satellite pop-up tag"],
  ["archival", "Archival tag"],
].map(([value, label]) => ({ value: value!, label: label! }));

interface Props {
  tags: Survey["parts"]["tags"];
  kit: Schemas["Kit"] | undefined;
  error: ApiError | null;
  onChange: (change: Partial<Survey["parts"]["tags"]>) => void;
}

/** Which tag for which fish, how many, and what of them is there. */
export function TagsPart({ tags, kit, error, onChange }: Props) {
  const battery = ["acoustic", "radio", "satellite"].includes(tags.kind ?? "");
  return (
    <section aria-labelledby="tags">
      <h2 id="tags" className="mb-2 text-lg font-semibold">
        Tags
      </h2>
      <Numbers
        specs={[
          { name: "kind", label: "Kind to take", options: TAG_KINDS },
          {
            name: "question",
            label: "The question",
            options: (kit?.questions ?? [tags.question]).map((value) => ({ value, label: value })),
          },
          { name: "n", label: "How many" },
          { name: "fish_mm", label: "Smallest fish to tag", unit: "mm" },
          { name: "mass_g", label: "Mass in air", unit: "g" },
          { name: "burden", label: "Burden allowed (share)" },
          { name: "years", label: "Years wanted" },
          { name: "budget", label: "Budget" },
          { name: "double", label: "Two tags (share)" },
          { name: "high_reward", label: "High reward (share)" },
          { name: "seed", label: "Seed of the draw" },
          ...(battery
            ? [
                { name: "capacity_mah", label: "Battery", unit: "mAh" },
                { name: "sleep_ua", label: "Asleep", unit: "uA" },
                { name: "pulse_mas", label: "One ping", unit: "mA s" },
                { name: "interval_s", label: "Between pings", unit: "s" },
                { name: "burst_s", label: "A ping lasts", unit: "s" },
                { name: "in_reach", label: "Tags in reach at once" },
              ]
            : []),
        ]}
        values={tags}
        error={error}
        onChange={onChange}
      />
      {kit?.tags_refused && (
        <p className="mt-3 border-l-4 border-signal pl-3 font-semibold text-signal">! {kit.tags_refused}</p>
      )}
      {kit?.tags && <Tags tags={kit.tags} n={tags.n ?? 0} battery={battery} />}
    </section>
  );
}

function Tags({ tags, n, battery }: { tags: Schemas["TagsShown"]; n: number; battery: boolean }) {
  return (
    <div className="mt-3">
      <p className="text-xl">
        Fish from <strong>{tags.smallest_high.toFixed(0)} mm</strong> may carry it ({tags.species}; half of them from{" "}
        {tags.smallest_mm.toFixed(0)} mm, {tags.own_line ? "by this programme's own line" : "by the general line"}).
      </p>
      <p className="mt-1">
        {whole(tags.in_stock)} of this kind in stock
        {tags.first_number && `; take ${tags.first_number} to ${tags.last_number}`}
        {tags.in_stock < n && <strong className="text-signal"> ! {whole(n - tags.in_stock)} are missing</strong>}.
      </p>
      {tags.double.length > 0 && (
        <p className="mt-1 text-sm">
          Two tags on fish number {tags.double.slice(0, 30).join(", ")}
          {tags.double.length > 30 && ` and ${tags.double.length - 30} more, on the field sheet`}.
        </p>
      )}
      {tags.high_reward.length > 0 && (
        <p className="mt-1 text-sm">
          High reward on fish number {tags.high_reward.slice(0, 30).join(", ")}
          {tags.high_reward.length > 30 && ` and ${tags.high_reward.length - 30} more, on the field sheet`}.
        </p>
      )}
      {battery && (
        <p className="mt-1 text-sm text-muted">
          Battery: {whole(tags.battery_days)} days, last ping about {formatDay(tags.last_ping)};{" "}
          {(100 * tags.collision).toFixed(0)} % of pings lost to others, under 20 % up to {tags.most_in_reach} tags in
          reach.
        </p>
      )}
    </div>
  );
}
