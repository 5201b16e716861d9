import { Grid3x3, Hand } from "lucide-react";
import { type ReactNode, type Ref, useId } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Key } from "@/ui/Key";
import { formatGrams, formatInches, formatMm, formatPounds } from "@/ui/words/format";
import { KINDS } from "@/ui/words/tag-kinds";
import { leavingWords } from "../rules/leaving";
import { relativeWeight } from "../rules/relative-weight";
import type { CallState } from "./use-call";

interface Props {
  ref: Ref<HTMLInputElement>;
  state: CallState;
  units: Pick<Schemas["Outing"], "length_unit" | "mass_unit">;
  hasRun: boolean;
  /** The last run, where none is going. */
  ended?: Schemas["Run"];
  onStartRun: () => void;
  /** Whether the touch pad is shown. */
  pad: boolean;
  onPad: () => void;
  onOneHand: () => void;
  /** What instruments read, beside what was understood. */
  instruments: ReactNode;
}

/** One input, always ready, that takes a fish the way it is called; what it understood stands below. */
export function CallLine({ ref, state, units, hasRun, ended, onStartRun, pad, onPad, onOneHand, instruments }: Props) {
  const id = useId();
  const { line, setLine, enter, correcting, species, clear } = state;
  return (
    <section aria-label="Call line" className="px-4 pt-2 pb-1">
      <div className={`flex items-stretch border-2 ${correcting ? "border-signal" : "border-ink"} bg-raised`}>
        <label htmlFor={id} className="flex min-w-32 flex-col justify-center border-r border-line px-3 leading-tight">
          <span className="text-xs text-muted">{correcting ? "Correcting" : "Next fish"}</span>
          <strong>{species?.name ?? "species?"}</strong>
        </label>
        <input
          ref={ref}
          id={id}
          value={line}
          onChange={(event) => setLine(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter" && !event.nativeEvent.isComposing) enter();
          }}
          // biome-ignore lint/a11y/noAutofocus: the call line is the page: it must be ready before anything is touched
          autoFocus
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          inputMode="text"
          placeholder={`length in ${units.length_unit}, mass in ${units.mass_unit}, sex: 437 890 f`}
          className="min-h-13 min-w-0 flex-1 bg-transparent px-3 text-2xl outline-offset-[-3px] placeholder:text-base placeholder:text-muted"
          aria-describedby={`${id}-understood`}
        />
        {(correcting || line) && (
          <Button large className="m-1 border-0" onClick={clear}>
            Clear <Key>Esc</Key>
          </Button>
        )}
        <Button
          large
          className="m-1 max-sm:hidden"
          aria-pressed={pad}
          title={pad ? "Hide the touch pad" : "Show the touch pad"}
          onMouseDown={(event) => event.preventDefault()}
          onClick={onPad}
        >
          <Grid3x3 size={18} /> <span className="max-lg:sr-only">Touch pad</span>
        </Button>
        {!correcting && (
          <Button
            large
            className="m-1 max-sm:px-2!"
            aria-label="One hand"
            title="A fish by touches alone, on one page"
            onMouseDown={(event) => event.preventDefault()}
            onClick={onOneHand}
          >
            <Hand size={18} />
          </Button>
        )}
        <Button look="ink" large className="m-1 min-w-24 text-lg max-sm:min-w-16" onClick={enter}>
          {correcting ? "Correct" : "Save"}
        </Button>
      </div>
      <div className="flex flex-wrap items-center justify-between gap-x-6">
        <div
          id={`${id}-understood`}
          aria-live="polite"
          className="flex min-h-[44px] flex-wrap items-center gap-x-4 gap-y-1 py-1"
        >
          <Understood state={state} />
          <Doubt state={state} hasRun={hasRun} ended={ended} onStartRun={onStartRun} />
        </div>
        {instruments}
      </div>
    </section>
  );
}

/** What was understood, in words. */
export function Understood({ state }: { state: CallState }) {
  const { call, species, correcting, against, boarding, goesBy, proposal, head, kept, own, record } = state;
  if (call.empty) {
    return (
      <p className="text-sm text-muted">
        {correcting
          ? "An empty line changes nothing."
          : "Species stays until another is called. ~ estimate, x14 counted only, ; note. Last fish: "}
        {!correcting && (
          <>
            <Key>↑</Key> correct, <Key>Ctrl Z</Key> take out.
          </>
        )}
      </p>
    );
  }
  const category = own && species?.categories.findLast(({ from_mm }) => own.mm >= from_mm)?.name;
  const wr =
    species && own && call.length && call.mass && !call.length.estimated && !call.mass.estimated
      ? relativeWeight(species.mass_table, own.mm, call.mass.value)
      : null;
  return (
    <dl className="flex flex-wrap items-baseline gap-x-4" data-testid="understood">
      <Part
        term="species"
        value={species?.name ?? "?"}
        other={species?.special_interest ? "! tell the lead of each" : ""}
      />
      {call.count > 1 && <Part term="counted" value={`${call.count} fish`} />}
      {call.length && (
        <Part
          term={call.length.estimated ? "length, estimated" : `length ${call.lengthType || species?.length_type || ""}`}
          value={formatMm(call.length.value)}
          other={[
            formatInches(call.length.value),
            own?.converted && `about ${formatMm(own.mm)} ${species?.length_type}`,
            category,
            own ? legality(species, own.mm, kept) : species && notJudged(species, call.lengthType),
          ]
            .filter(Boolean)
            .join(", ")}
        />
      )}
      {state.alerts.map((alert) => (
        <Part key={alert} term="alert" value={alert} />
      ))}
      {state.limits.length > 0 && (
        <Part term="not to be retained" value={state.limits.map((each) => LIMITS[each]).join(", ")} />
      )}
      {record && <Part term="largest so far here" value={record} />}
      {boarding && boarding.where !== "aboard" && <Part term="handle it" value={boarding.where} other={boarding.how} />}
      {proposal && <Part term={proposal.tag ? "tag it" : "no tag"} value="" other={proposal.words} />}
      {head && (proposal?.tag || (call.scanned === "none" && call.marks.length > 0)) && (
        <Part
          term="with"
          value={KINDS[head.kind as keyof typeof KINDS] ?? String(head.kind)}
          other={String(head.how ?? "")}
        />
      )}
      {call.mass && (
        <Part
          term={call.mass.estimated ? "mass, estimated" : "mass"}
          value={formatGrams(call.mass.value)}
          other={[formatPounds(call.mass.value), wr !== null && `Wr ${wr.toFixed(0)}`].filter(Boolean).join(", ")}
        />
      )}
      {against
        .filter(({ standing }) => standing !== "open")
        .map(({ allowance, before }) => (
          <Part
            key={allowance.id}
            term={allowance.what}
            value={`${before} of ${allowance.most}`}
            other={allowance.permit}
          />
        ))}
      {call.sex && <Part term="sex" value={{ f: "female", m: "male", u: "unknown" }[call.sex]} />}
      {call.scanned && <Part term="scanned" value="none found" />}
      {call.release && <Part term="leaves" value={leavingWords(goesBy, call.release)} />}
      {call.note && <Part term="note" value={call.note} />}
    </dl>
  );
}

const LIMITS = { closed: "closed season", boat_full: "boat limit reached" };

/** Why a length has neither category nor legal size nor relative weight. */
function notJudged({ length_type }: NonNullable<CallState["species"]>, type: string): string {
  return `not judged: limits are of ${length_type}, and no conversion from ${type} is known`;
}

/** Whether a fish of this length may be kept; nothing where no rule is known. */
function legality(species: CallState["species"], mm: number, kept: number): string {
  const [least, most] = species?.legal_mm ?? [null, null];
  if (least === null && most === null) return "";
  if (least != null && mm < least) return `under the legal ${least} mm`;
  if (most != null && mm > most) return `over the legal ${most} mm`;
  const bag = species?.legal_bag;
  return bag == null ? "of legal size" : `of legal size (bag ${bag} a person; ${kept} kept so far)`;
}

function Part({ term, value, other }: { term: string; value: string; other?: string }) {
  return (
    <div className="leading-tight">
      <dt className="text-xs text-muted">{term}</dt>
      <dd>
        <strong>{value}</strong> {other && <span className="text-sm text-muted">{other}</span>}
      </dd>
    </div>
  );
}

export type DoubtProps = Pick<Props, "state" | "hasRun" | "ended" | "onStartRun">;

/** What stands against saving it, with the repairs that one touch makes. */
export function Doubt({ state, hasRun, ended, onStartRun }: DoubtProps) {
  const { complaint, pressed, doubts, needed, refused, repair, keepWithoutLength, enter, keepIn } = state;
  if (complaint) {
    // while a word is half typed a complaint would only nag
    if (!pressed) return <p className="text-sm text-muted">{complaint}</p>;
    return (
      <p role="alert" className="flex items-center gap-3 font-semibold text-signal">
        {complaint}{" "}
        {!hasRun && (
          <Button look="signal" large onClick={onStartRun}>
            Start run
          </Button>
        )}
        {!hasRun && ended && (
          <Button look="signal" large onClick={() => keepIn(ended)}>
            It is of run {ended.number}, which has ended
          </Button>
        )}
      </p>
    );
  }
  if (!doubts.questions.length) return null;
  return (
    <div role={pressed ? "alert" : undefined} className="flex flex-wrap items-center gap-2">
      <p className={pressed ? "font-semibold text-signal" : "text-signal"}>? {doubts.questions[0]!.message}</p>
      {doubts.repairs.map((each, place) => (
        <Button key={each.code + place} large look="signal" onClick={() => repair(each)}>
          {[
            each.fish.length !== null && formatMm(each.fish.length),
            each.fish.mass !== null && formatGrams(each.fish.mass),
          ]
            .filter(Boolean)
            .join(", ")}
          <span className="text-sm font-normal">{each.label}</span> <Key>{`Alt ${place + 1}`}</Key>
        </Button>
      ))}
      {refused ? (
        <Button large onClick={keepWithoutLength}>
          Save without length
        </Button>
      ) : (
        pressed > 0 && (
          <Button large onClick={enter}>
            {pressed < needed ? "Yes, as called" : "Save as called"} <Key>Enter</Key>
          </Button>
        )
      )}
    </div>
  );
}
