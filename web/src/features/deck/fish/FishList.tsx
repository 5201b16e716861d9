import { useQuery } from "@tanstack/react-query";
import { Pencil, X } from "lucide-react";
import { memo, useDeferredValue, useMemo, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { formatGrams, formatInches, formatMm, formatTime, targetWords } from "@/ui/words/format";
import type { DeckView } from "../document/deck-store";
import { keyOf, type Leaving, leavingOf, leavingWords, waysToLeave } from "../rules/leaving";
import { doneOf } from "../rules/orders";
import type { Deck } from "../scope";

type Capture = Schemas["Capture"];

interface Props {
  view: DeckView;
  run: Schemas["Run"] | undefined;
  working: boolean;
  correcting: string | undefined;
  onCorrect: (capture: Capture) => void;
  onDelete: (capture: Capture) => void;
  onRelease: (capture: Capture, leaving: Leaving) => void;
  /** More is to be said of how it left. */
  onLeaving: (capture: Capture) => void;
  onReleaseAll: () => void;
  /** All that is said of a fish. */
  onOpen: (capture: Capture) => void;
}

/** More rows than are in sight would only make the next call slower; older ones come when asked for. */
const SHOWN = 20;
const MORE = 60;

/** What has been kept, newest first, and how many of each species. Not drawn anew while the next one is typed. */
export const FishList = memo(function FishList(props: Props) {
  const { view, run, working, correcting, onCorrect, onDelete, onRelease, onReleaseAll, onLeaving, onOpen } = props;
  const { captures, species, outing, runs } = view.document;
  const [shown, setShown] = useState(SHOWN);
  const { protocol } = view.document;
  const ways = useMemo(() => waysToLeave({ protocol }), [protocol]);
  const newest = captures.slice(-shown).reverse();
  const { bySpecies, aboard } = tally(captures, run?.id);
  const numbers = new Map(runs.map(({ id, number }) => [id, number]));
  return (
    <section aria-label="Fish kept" className="flex min-h-48 min-w-0 flex-col border-t border-line pt-1 lg:min-h-80">
      <div className="flex items-start gap-4">
        <div className="flex min-w-0 flex-1 flex-wrap gap-x-4 text-sm">
          <ul className="contents" aria-label="Tally by species">
            {species.map(({ code, name }) => {
              const of = bySpecies.get(code);
              return of ? (
                <li key={code}>
                  {name} <strong>{of.all}</strong>
                  {run && <span className="text-muted">, {of.thisRun} this run</span>}
                </li>
              ) : null;
            })}
          </ul>
          <Standing deck={view.document} />
        </div>
        {working && (
          <Button large disabled={aboard === 0} onClick={onReleaseAll}>
            Release all <Key>F9</Key>
          </Button>
        )}
      </div>
      <div className="max-h-[19rem] flex-1 overflow-y-auto lg:max-h-none lg:basis-0">
        <table className="w-full border-collapse text-left">
          <thead className="sticky top-0 bg-paper text-xs text-muted">
            <tr>
              <th className="pr-2">Run</th>
              <th className="pr-2">Time</th>
              <th className="pr-2">Species</th>
              <th className="pr-2 text-right">Length (mm)</th>
              <th className="pr-2 text-right">(in)</th>
              <th className="pr-2 text-right">Mass (g)</th>
              <th className="pr-2">Sex</th>
              <th className="pr-2">Disposition</th>
              <th>
                <span className="sr-only">Marks and actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {newest.map((capture) => (
              <FishRow
                key={capture.id}
                capture={capture}
                run={numbers.get(capture.run)}
                timeZone={outing.time_zone}
                unsent={view.unsent.has(capture.id)}
                inDoubt={view.inDoubt.has(capture.id)}
                correcting={correcting === capture.id}
                onCorrect={working ? onCorrect : undefined}
                onDelete={working ? onDelete : undefined}
                ways={ways}
                protocol={view.document.protocol}
                onRelease={working ? onRelease : undefined}
                onLeaving={onLeaving}
                onOpen={onOpen}
              />
            ))}
          </tbody>
        </table>
        {!newest.length && (
          <p className="py-4 text-muted">No fish yet. Call the first one as the measurer says it: 437 890 f</p>
        )}
        {captures.length > shown && (
          <p className="flex items-center gap-3 py-1 text-sm text-muted">
            The newest {shown} of {captures.length.toLocaleString("en")}.
            <Button onClick={() => setShown(shown + MORE)}>Show {MORE} more</Button>
          </p>
        )}
      </div>
    </section>
  );
});

/** Targets with what is still needed, and whether it is enough: that waits for a signal, and is asked anew every few fish. */
function Standing({ deck: now }: { deck: Deck }) {
  const deck = useDeferredValue(now);
  const fish = deck.captures.length;
  const { data } = useQuery({
    queryKey: ["enough-so-far", deck.outing.id, Math.floor(fish / ASKED_EVERY)],
    queryFn: () =>
      answer(api.GET("/api/v1/outings/{outing_id}/enough", { params: { path: { outing_id: deck.outing.id } } })),
    retry: false,
    placeholderData: (before) => before,
    enabled: fish > 0 && deck.targets.length > 0,
  });
  if (!deck.targets.length) return null;
  const aboard = (code: string) => deck.captures.filter((each) => each.species === code && !each.release).length;
  return (
    <ul aria-label="Targets" className="contents">
      {deck.targets.map((target) => {
        const done = doneOf(deck, target);
        const left = target.wanted - done;
        return (
          <li key={target.id}>
            {targetWords(target.species, { ...target, place: target.zone })} <strong>{done}</strong> of {target.wanted}
            <span className="text-muted">
              {left > 0 ? `, ${left} to go` : ", done"}
              {aboard(target.species) > 0 && `, ${aboard(target.species)} aboard`}
            </span>
          </li>
        );
      })}
      {data
        ?.filter(({ more }) => more !== null)
        .map(({ species, words, reached }) => (
          <li key={species + words} className={reached ? "font-semibold" : "text-muted"}>
            {reached ? "✓ " : ""}
            {species}: {words}
          </li>
        ))}
    </ul>
  );
}

/** So many fish change little of a precision. */
const ASKED_EVERY = 5;
const MORE_TO_SAY = "more";

interface RowProps {
  capture: Capture;
  run: number | undefined;
  timeZone: string;
  unsent: boolean;
  inDoubt: boolean;
  correcting: boolean;
  onCorrect: ((capture: Capture) => void) | undefined;
  onDelete: ((capture: Capture) => void) | undefined;
  ways: ReturnType<typeof waysToLeave>;
  protocol: Schemas["Deck"]["protocol"];
  onRelease: ((capture: Capture, leaving: Leaving) => void) | undefined;
  onLeaving: (capture: Capture) => void;
  onOpen: (capture: Capture) => void;
}

/** Drawn again only where its own fish changed: the list must not slow the next call. */
const FishRow = memo(function FishRow({
  capture,
  run,
  timeZone,
  unsent,
  inDoubt,
  correcting,
  onCorrect,
  onDelete,
  ways,
  protocol,
  onRelease,
  onLeaving,
  onOpen,
}: RowProps) {
  const { species, count = 1, length_mm, mass_g } = capture;
  const left = leavingOf(capture);
  const about = (basis: string) => (basis === "estimated" ? "~" : "");
  const fish = count > 1 ? `${species} x ${count}` : species;
  return (
    <tr data-capture={capture.id} className={`h-9 border-t border-line ${correcting ? "bg-wash" : ""}`}>
      <td className="pr-2 text-muted">{run}</td>
      <td className="pr-2 text-muted">{formatTime(capture.device_time, timeZone)}</td>
      <td className="pr-2">
        <button
          type="button"
          aria-label={`All of ${fish} ${capture.length_text}`.trim()}
          className="min-h-[44px] min-w-[44px] cursor-pointer text-left underline decoration-line underline-offset-4"
          onClick={() => onOpen(capture)}
        >
          {fish}
        </button>
      </td>
      <td className="pr-2 text-right font-semibold">
        {length_mm != null && about(capture.length_basis) + formatMm(length_mm).replace(" mm", "")}
      </td>
      <td className="pr-2 text-right text-muted">{length_mm != null && formatInches(length_mm).replace(" in", "")}</td>
      <td className="pr-2 text-right">
        {mass_g != null && about(capture.mass_basis) + formatGrams(mass_g).replace(" g", "")}
      </td>
      <td className="pr-2">{capture.sex === "u" ? "" : capture.sex}</td>
      <td className="pr-2">
        {onRelease ? (
          <select
            aria-label={`How ${species} ${capture.length_text} left`}
            className="min-h-[44px] w-26 bg-transparent text-sm group-data-[wide=true]/list:md:w-52"
            value={keyOf(left)}
            onChange={({ target: { value } }) => {
              if (value === MORE_TO_SAY) onLeaving(capture);
              else onRelease(capture, ways.find(({ key }) => key === value)?.leaving ?? { fate: null });
            }}
          >
            <option value="">aboard</option>
            {ways.map(({ key, leaving }) => (
              <option key={key} value={key}>
                {leavingWords({ protocol }, leaving)}
              </option>
            ))}
            {!ways.some(({ key }) => key === keyOf(left)) && left.fate && (
              <option value={keyOf(left)}>{leavingWords({ protocol }, left)}</option>
            )}
            <option value={MORE_TO_SAY}>more to say...</option>
          </select>
        ) : (
          <span className="text-sm">{leavingWords({ protocol }, left)}</span>
        )}
      </td>
      <td className="text-right whitespace-nowrap">
        <Marks capture={capture} unsent={unsent} inDoubt={inDoubt} />
        {onCorrect && (
          <Button
            aria-label={`Correct ${species} ${capture.length_text}`}
            className="border-0"
            onClick={() => onCorrect(capture)}
          >
            <Pencil size={16} />
          </Button>
        )}
        {onDelete && (
          <Button
            aria-label={`Delete ${species} ${capture.length_text}`}
            className="border-0"
            onClick={() => onDelete(capture)}
          >
            <X size={18} />
          </Button>
        )}
      </td>
    </tr>
  );
});

function Marks({ capture, unsent, inDoubt }: { capture: Capture; unsent: boolean; inDoubt: boolean }) {
  const doubts = capture.questions
    ?.map(({ code, answer }) => `${code.replaceAll("_", " ")}: ${answer?.replaceAll("_", " ") ?? ""}`)
    .join("; ");
  return (
    <span className="mr-1 text-sm">
      {capture.scanned === "known" && (
        <span className="mr-2 font-semibold" title={numbersRead(capture)}>
          recaptured
        </span>
      )}
      {capture.scanned === "foreign" && (
        <span className="mr-2" title={numbersRead(capture)}>
          unknown tag
        </span>
      )}
      {capture.placed.length > 0 && (
        <span className="mr-2" title={capture.placed.map(({ number }) => number).join(", ")}>
          tagged
        </span>
      )}
      {doubts && (
        <span title={doubts} role="img" aria-label={`Questioned: ${doubts}`} className="mr-2 font-semibold">
          ?
        </span>
      )}
      {inDoubt && <span className="mr-2 font-semibold text-signal">! not accepted</span>}
      {unsent && !inDoubt && (
        <span title="Not sent yet; kept on this device" className="text-muted">
          unsent
        </span>
      )}
    </span>
  );
}

const numbersRead = ({ scans }: Capture) => scans.map(({ number }) => number).join(", ");

/** Fish of each species, those of one run among them, and those still aboard. */
function tally(captures: Capture[], run: string | undefined) {
  const bySpecies = new Map<string, { all: number; thisRun: number }>();
  let aboard = 0;
  for (const each of captures) {
    const { count = 1 } = each;
    const of = bySpecies.get(each.species) ?? { all: 0, thisRun: 0 };
    of.all += count;
    if (each.run === run) of.thisRun += count;
    bySpecies.set(each.species, of);
    if (!each.release) aboard += count;
  }
  return { bySpecies, aboard };
}
