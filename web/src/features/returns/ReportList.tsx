import { formatDay } from "@/ui/words/format";
import type { Report } from "./queries";
import { dayText, numberOf, STATES } from "./words";

interface Props {
  reports: Report[];
  shown: string | undefined;
  ticked: ReadonlySet<string>;
  onShow: (key: string) => void;
  onTick: (ticked: ReadonlySet<string>) => void;
}

/** Reports, the newest first: number, day, state, and how much speaks against each. */
export function ReportList({ reports, shown, ticked, onShow, onTick }: Props) {
  const tick = (key: string, on: boolean) => {
    const next = new Set(ticked);
    if (on) next.add(key);
    else next.delete(key);
    onTick(next);
  };
  return (
    <ul aria-label="Reports">
      {reports.map((each) => (
        <li
          key={each.id}
          className={`flex items-center gap-2 border-b border-l-4 border-b-line ${each.id === shown ? "border-l-ink bg-raised" : "border-l-transparent"}`}
        >
          <label className="grid min-h-[44px] min-w-[44px] place-content-center">
            <input
              type="checkbox"
              className="size-5"
              aria-label={`Choose report of ${numberOf(each)}`}
              checked={ticked.has(each.id)}
              onChange={({ target }) => tick(each.id, target.checked)}
            />
          </label>
          <button
            type="button"
            aria-current={each.id === shown ? "true" : undefined}
            className="min-h-[44px] flex-1 cursor-pointer py-1.5 text-left"
            onClick={() => onShow(each.id)}
          >
            <span className="flex justify-between gap-3">
              <span className="font-semibold tabular-nums">{numberOf(each)}</span>
              <span>{STATES[each.state]}</span>
            </span>
            <span className="flex justify-between gap-3 text-sm text-muted">
              <span>Found {dayText(each)}</span>
              <span>received {formatDay(each.received_at)}</span>
            </span>
            {each.doubts.length > 0 && (
              <span className="block text-sm text-signal">
                <span aria-hidden="true">! </span>
                {each.doubts[0]!.text}
                {each.doubts.length > 1 && ` And ${each.doubts.length - 1} more.`}
              </span>
            )}
          </button>
        </li>
      ))}
    </ul>
  );
}
