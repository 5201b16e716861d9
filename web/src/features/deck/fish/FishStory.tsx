import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { formatDay, formatInches, formatMm, plural } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import type { CallState } from "../calling/use-call";
import { PlacingCard } from "../cards/PlacingCard";
import { type CalledMark, type MarkTable, metresBetween, type Recognised } from "../rules/marks";

interface Props {
  state: CallState;
  outing: string;
  /** The site of the run that is going. */
  site: string | undefined;
  /** A number that nobody has entered is a new tag of one's own. */
  onTakeIn: (mark: CalledMark) => void;
}

/** What the numbers on the line mean: a fish's story at once, a tag to be placed, a mark nobody here gave out. */
export function FishStory({ state, outing, site, onTakeIn }: Props) {
  const { recognised, unscanned, sayScanned, call, table, proved, proveReader } = state;
  if (!recognised.length && !call.scanned) return null;
  return (
    <section
      aria-label="Marks"
      aria-live="polite"
      className="mx-4 mb-1 flex flex-wrap items-center gap-x-5 gap-y-1 border-l-4 border-ink bg-raised px-3 py-2"
    >
      {call.scanned && !recognised.length && <p>Scanned, none found. A tag read now will be placed in this fish.</p>}
      {recognised.map((each) => (
        <Meaning
          key={each.number}
          mark={each}
          table={table}
          outing={outing}
          site={site}
          length={call.length?.value}
          onTakeIn={onTakeIn}
        />
      ))}
      {!proved && (
        <p className="text-sm">
          The reader has not been proved on a known tag today. <Button onClick={proveReader}>It reads one now</Button>
        </p>
      )}
      {unscanned && (
        <>
          <p role="alert" className="font-semibold text-signal">
            Scan the fish before it gets this tag.
          </p>
          <Button large look="signal" onClick={sayScanned}>
            Scanned, none found <Key>F4</Key>
          </Button>
        </>
      )}
    </section>
  );
}

interface MeaningProps {
  mark: Recognised;
  table: MarkTable;
  outing: string;
  site: string | undefined;
  length: number | undefined;
  onTakeIn: (mark: CalledMark) => void;
}

function Meaning({ mark, table, outing, site, length, onTakeIn }: MeaningProps) {
  const name = `${KINDS[mark.kind]} ${markText(mark)}`;
  if (mark.meaning === "stock")
    return (
      <>
        <p>
          <strong>New placement.</strong> {name} is in stock ({mark.batch}).
        </p>
        <details className="group">
          <summary className="flex min-h-[44px] cursor-pointer items-center underline underline-offset-4">
            <span className="mr-1 inline-block group-open:rotate-90">▸</span> How it is placed
          </summary>
          <PlacingCard kind={mark.kind} />
        </details>
      </>
    );
  const fish = mark.meaning === "known" ? mark.fish : mark.met;
  if (mark.meaning === "foreign")
    return (
      <>
        <p>
          <strong className="text-signal">Unknown tag.</strong> {name} is not of this programme; it is recorded with the
          fish.{" "}
          {!fish && (
            <Button large onClick={() => onTakeIn(mark)}>
              Add to our stock
            </Button>
          )}
        </p>
        {fish && <Before fish={fish} mark={mark} table={table} outing={outing} site={site} length={length} />}
      </>
    );
  return <Before fish={mark.fish} mark={mark} table={table} outing={outing} site={site} length={length} />;
}

interface BeforeProps extends Omit<MeaningProps, "onTakeIn"> {
  fish: Schemas["MarkedFish"];
}

/** When and where a fish was met before, and how it has grown. */
function Before({ fish, mark, table, outing, site, length }: BeforeProps) {
  const name = `${KINDS[mark.kind]} ${markText(mark)}`;
  const { last, times_met, marks } = fish;
  const others = marks.filter(({ number }) => number !== mark.number).map(markText);
  const place = last.site === null ? undefined : table.sites.get(last.site);
  return (
    <>
      <p>
        <strong>Met before, {times_met === 1 ? "once" : plural(times_met, "time")}.</strong> {name}
        {others.length > 0 && `, also ${others.join(", ")}`}
      </p>
      <p>
        Last {formatDay(last.at)} ({Math.round(last.days)} d ago)
        {place && ` at ${place.name}, ${place.water}`}
        <Distance last={last} table={table} site={site} />
      </p>
      <Growth last={last} length={length} />
      {(fish.notes ?? []).map((note) => (
        <p key={note}>
          <strong>{note}</strong>
        </p>
      ))}
      {last.outing === outing && (
        <p role="alert" className="font-semibold text-signal">
          This fish has already been handled on this outing.
        </p>
      )}
    </>
  );
}

function Distance({
  last,
  table,
  site,
}: {
  last: Schemas["LastEncounter"];
  table: MarkTable;
  site: string | undefined;
}) {
  const there = last.site === null ? undefined : table.sites.get(last.site);
  const here = site === undefined ? undefined : table.sites.get(site);
  const metres = there && here && metresBetween(there, here);
  if (metres === undefined) return null;
  const [then, now] = [there?.river_km, here?.river_km];
  const along =
    then != null && now != null && then !== now
      ? `, ${Math.abs(now - then).toFixed(1)} km ${now > then ? "up" : "down"} the river`
      : "";
  return <>; {metres === 0 ? "the same site" : `${(metres / 1000).toFixed(1)} km from here${along}`}</>;
}

function Growth({ last, length }: { last: Schemas["LastEncounter"]; length: number | undefined }) {
  if (last.length_mm === null) return null;
  if (length === undefined) return <p>It was {formatMm(last.length_mm)} long.</p>;
  const grown = length - last.length_mm;
  const monthly = last.months !== null && last.months >= 1 ? `, ${(grown / last.months).toFixed(1)} mm a month` : "";
  return (
    <p>
      {formatMm(last.length_mm)} then: <strong>{`${grown >= 0 ? "+" : ""}${Number(grown.toFixed(1))} mm`}</strong> (
      {`${grown >= 0 ? "+" : ""}${formatInches(grown)}`}){monthly}
    </p>
  );
}
