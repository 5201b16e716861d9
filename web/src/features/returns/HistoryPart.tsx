import { formatDay } from "@/ui/words/format";
import type { WholeReport } from "./queries";
import { STATES } from "./words";

const NAMES: Record<string, string> = {
  state: "state",
  species: "species",
  found_on: "day",
  found_within_days: "day good to (days)",
  lat: "latitude",
  lon: "longitude",
  error_m: "position error (m)",
  place_text: "place",
  length_text: "length",
  length_estimated: "length estimated",
  mass_text: "weight",
  means: "caught by",
  fish_fate: "fish",
  tag_fate: "tag",
};

/** What was decided and corrected, by whom, and why: nothing is overwritten without a trace. */
export function HistoryPart({ history }: Pick<WholeReport, "history">) {
  if (!history.length) return null;
  return (
    <section aria-label="History" className="mt-4">
      <h3 className="font-semibold">History</h3>
      <ol>
        {history.map((each) => (
          <li key={each.at} className="border-t border-line py-1">
            {formatDay(each.at)}, {each.person}: {changesOf(each)}
            {each.reason && ` (${each.reason})`}
          </li>
        ))}
      </ol>
    </section>
  );
}

function changesOf({ before, after }: WholeReport["history"][number]): string {
  const told = Object.keys(after).filter((name) => name in NAMES);
  if (!told.length) return "matched with another tag";
  return told.map((name) => `${NAMES[name]} ${text(name, before[name])} → ${text(name, after[name])}`).join(", ");
}

function text(name: string, value: unknown): string {
  if (value === null || value === "" || value === undefined) return "none";
  return name === "state" ? (STATES[value as keyof typeof STATES] ?? String(value)).toLowerCase() : String(value);
}
