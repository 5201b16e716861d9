import { Link, type LinkProps } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { usePlan, useToday } from "@/features/programme";
import { scopeKind } from "@/offline/scopes";
import { useQueued } from "@/offline/use-queued";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { DoneOf } from "@/ui/DoneOf";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay, formatSeconds, plural, targetWords } from "@/ui/words/format";
import { CrossedSheet } from "./CrossedSheet";

type Today = Schemas["Today"];

/** Home: the open outing, how far today's targets are, and what waits for a person. */
export function TodayScreen() {
  const { membership, person, may } = useHere();
  const [comparing, setComparing] = useState(false);
  const { data: today, error } = useToday(membership.programme);
  const mine = useQueued().filter((each) => each.person === person.id);
  const unsent = mine.filter(({ state }) => state === "waiting").length;
  const refused = mine.filter(({ state }) => state === "refused");
  const { data: plan } = usePlan(membership.programme);
  const due = plan?.permits.filter(({ state }) => state === "expired" || state === "soon") ?? [];
  return (
    <main className="mx-auto max-w-6xl px-4 py-5">
      <h1 className="text-2xl font-semibold">Today</h1>
      {error && <ErrorMessage failure={error} />}
      {today?.outings.map((each) => (
        <OpenOuting key={each.outing.id} {...each} />
      ))}
      {today && <FirstSteps steps={today.steps} />}
      {today?.outings.length === 0 && !today.steps.length && (
        <Empty>
          No outing is open.{" "}
          <Link to="/deck" className="underline underline-offset-4">
            Open one
          </Link>{" "}
          for the water you are going to.
        </Empty>
      )}
      <div className="mt-6 grid gap-8 md:grid-cols-2">
        <section aria-labelledby="waiting">
          <h2 id="waiting" className="text-lg font-semibold">
            Needs attention
          </h2>
          <ul className="mt-1">
            {unsent > 0 && (
              <li className="border-t border-line py-2">
                {plural(unsent, "entry", "entries")} on this device not sent yet; they go by themselves as soon as there
                is a signal.
              </li>
            )}
            {refused.length > 0 && (
              <Waiting link={scopeKind(refused[0]!.scope.kind)?.link(refused[0]!.scope.id)}>
                {plural(refused.length, "entry", "entries")} of this device not accepted by the server.
              </Waiting>
            )}
            {today?.waiting.map((each) =>
              each.code === "corrections_crossed" && may("correct_record") ? (
                <Waiting key={each.code} onLook={() => setComparing(true)}>
                  {each.text}
                </Waiting>
              ) : (
                <Waiting key={each.code + each.text} link={linkOf(each)}>
                  {each.text}
                </Waiting>
              ),
            )}
            {due.map((permit) => (
              <li key={permit.id} className="flex items-center gap-3 border-t border-line py-2">
                <span className="font-semibold text-signal" aria-hidden="true">
                  !
                </span>
                {permit.name}
                {permit.holder && ` of ${permit.holder}`} {permit.state === "expired" ? "expired" : "expires"} on{" "}
                {formatDay(permit.last)}.
                <Link to="/plan" className="ml-auto underline decoration-line underline-offset-4 hover:decoration-ink">
                  Look
                </Link>
              </li>
            ))}
            {!today && !error && <li className="border-t border-line py-2 text-muted">Loading...</li>}
            {today && !today.waiting.length && !unsent && !refused.length && !due.length && (
              <li className="border-t border-line py-2 text-muted">Nothing. All recorded fish are accounted for.</li>
            )}
          </ul>
        </section>
        {today?.recent.length !== 0 && <RecentOutings outings={today?.recent ?? []} />}
      </div>
      {comparing && <CrossedSheet programme={membership.programme} onClose={() => setComparing(false)} />}
    </main>
  );
}

/** Where a line of what waits is dealt with. */
function linkOf({ code, outing }: Today["waiting"][number]): LinkProps | undefined {
  if (code.startsWith("returns_")) return { to: "/tags/returns" };
  if (code === "tags_unbalanced") return { to: "/tags" };
  if (code.startsWith("cards_")) return { to: "/tags/volunteers" };
  return outing ? { to: "/deck/$outing", params: { outing } } : undefined;
}

/** Where each step is done, and why; what comes after the people may wait until the first outing is over. */
const STEPS: Record<Schemas["Step"]["code"], { link: LinkProps; title: string; why: string }> = {
  water: {
    link: { to: "/settings/$part", params: { part: "waters" } },
    title: "Water and sites",
    why: "Where you fish: a name and a point are enough to begin.",
  },
  species: {
    link: { to: "/settings/$part", params: { part: "species" } },
    title: "Species",
    why: "What you expect to catch, the most common one first.",
  },
  people: {
    link: { to: "/settings/$part", params: { part: "people" } },
    title: "People",
    why: "Who measures, records and reads findings with you.",
  },
  protocol: {
    link: { to: "/settings/$part", params: { part: "protocol" } },
    title: "Protocol",
    why: "Limits, lanes and words of your own; the shipped ones are in force until then.",
  },
  permit: {
    link: { to: "/plan" },
    title: "Permits and certificates",
    why: "With their dates and numbers of fish: each outing is checked against them.",
  },
  plan: {
    link: { to: "/plan" },
    title: "Plan",
    why: "Question, sites, effort; an outing can also be opened without one.",
  },
  tags: { link: { to: "/tags" }, title: "Tags", why: "Your numbers, so that a tag that is read is known as yours." },
  outing: { link: { to: "/deck" }, title: "First outing", why: "A day or a night on one water." },
};

/** What a programme needs before its first outing; each can be left for later and stays here until it is there. */
function FirstSteps({ steps }: Pick<Today, "steps">) {
  if (!steps.length) return null;
  return (
    <section aria-labelledby="first-steps" className="mt-4 border-y-2 border-ink px-2 py-3">
      <h2 id="first-steps" className="text-xl font-semibold">
        Before the first outing
      </h2>
      <ol className="mt-2">
        {steps.map(({ code, done }, place) => (
          <li key={code} className="flex flex-wrap items-center gap-x-4 border-t border-line py-2">
            <span className="w-8 text-lg font-semibold" aria-hidden="true">
              {done ? "✓" : place + 1}
            </span>
            <span className="min-w-48 font-semibold">
              {STEPS[code].title}
              {done && <span className="sr-only">, there</span>}
            </span>
            <span className="text-muted">{STEPS[code].why}</span>
            <Link
              {...STEPS[code].link}
              className={`ml-auto inline-flex min-h-[44px] items-center rounded-sm border px-4 ${!done && steps.findIndex((each) => !each.done) === place ? "border-ink bg-ink text-on-ink" : "border-line"}`}
            >
              {done ? "Look" : code === "outing" ? "Open one" : "Do it"}
            </Link>
          </li>
        ))}
      </ol>
    </section>
  );
}

function RecentOutings({ outings }: { outings: Today["recent"] }) {
  return (
    <section aria-labelledby="recent">
      <h2 id="recent" className="text-lg font-semibold">
        Last outings
      </h2>
      <table className="mt-1 w-full text-left">
        <thead className="text-sm text-muted">
          <tr>
            <th>Day</th>
            <th>Outing</th>
            <th className="text-right">Fish</th>
          </tr>
        </thead>
        <tbody>
          {outings.map((outing) => (
            <tr key={outing.id} className="border-t border-line">
              <td className="py-1.5 pr-3 whitespace-nowrap">{formatDay(outing.date)}</td>
              <td className="pr-3">
                <Link
                  to="/deck/$outing"
                  params={{ outing: outing.id }}
                  className="underline decoration-line underline-offset-4 hover:decoration-ink"
                >
                  {outing.name}
                </Link>
              </td>
              <td className="text-right">{outing.n_fish}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function OpenOuting({ outing, aboard, in_well, to_call, current_on_s, targets }: Schemas["OpenOutingToday"]) {
  return (
    <section aria-label={outing.name} className="mt-3 border-y-2 border-ink px-2 py-3">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-1">
        <h2 className="text-xl font-semibold">{outing.name}</h2>
        <span>{formatDay(outing.date)}</span>
        <span className="text-muted">
          {plural(outing.n_runs, "run")}, {plural(outing.n_fish, "fish", "fish")}
        </span>
        {current_on_s > 0 && <span className="text-muted">{formatSeconds(current_on_s)} min:s current on</span>}
        <span className={aboard + to_call ? "font-semibold" : "text-muted"}>
          {aboard} aboard{aboard > 0 && `, ${in_well} of them in the live well`}
          {to_call > 0 && `, ${to_call} netted and not called yet`}
        </span>
        <Link
          to="/deck/$outing"
          params={{ outing: outing.id }}
          className="ml-auto inline-flex min-h-[44px] items-center rounded-sm border border-ink bg-ink px-4 text-on-ink"
        >
          Work the deck
        </Link>
      </div>
      {targets.length > 0 && (
        <ul className="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-3">
          {targets.map((target) => (
            <DoneOf
              key={target.species + target.what + target.zone}
              label={targetWords(target.species, { ...target, place: target.zone })}
              done={target.done}
              wanted={target.wanted}
            />
          ))}
        </ul>
      )}
    </section>
  );
}

interface WaitingProps {
  link?: LinkProps;
  /** Instead of leading there. */
  onLook?: () => void;
  children: React.ReactNode;
}

function Waiting({ link = { to: "/plan" }, onLook, children }: WaitingProps) {
  return (
    <li className="flex items-center gap-3 border-t border-line py-2">
      <span className="font-semibold text-signal" aria-hidden="true">
        !
      </span>
      <span className="flex-1">{children}</span>
      {onLook ? (
        <Button onClick={onLook}>Compare</Button>
      ) : (
        <Link {...link} className="ml-auto underline decoration-line underline-offset-4 hover:decoration-ink">
          Look
        </Link>
      )}
    </li>
  );
}
