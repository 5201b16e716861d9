import type { Schemas } from "@/api/client";
import { fieldWords, valueWords } from "@/ui/words/changed";
import { formatDay } from "@/ui/words/format";
import { useFishHistory } from "./queries";

/** Who changed a fish, when, from what to what; and what came too late to stand. */
export function FishHistory({ capture }: { capture: string }) {
  const { data: changes } = useFishHistory(capture);
  if (!changes?.length) return <p className="mt-3 text-sm text-muted">Not changed since it was recorded.</p>;
  return (
    <section aria-label="History" className="mt-4 border-t border-line pt-2">
      <h3 className="font-semibold">History</h3>
      <ul className="text-sm">
        {changes.map((change) => (
          <Change key={change.id} change={change} />
        ))}
      </ul>
    </section>
  );
}

function Change({ change }: { change: Schemas["Change"] }) {
  const late = Object.entries(change.late);
  return (
    <li className="border-t border-line py-1 first:border-0">
      {formatDay(change.device_time)}, {change.person}
      {change.reason && `: ${change.reason}`}
      <span className="block text-muted">
        {Object.keys(change.after)
          .map(
            (name) =>
              `${fieldWords(name)} ${valueWords(name, change.before[name])} → ${valueWords(name, change.after[name])}`,
          )
          .join("; ")}
      </span>
      {late.length > 0 && (
        <span className="block font-semibold">
          ! reached the server after a later word, and does not stand:{" "}
          {late.map(([name, value]) => `${fieldWords(name)} ${valueWords(name, value)}`).join("; ")}
        </span>
      )}
    </li>
  );
}
