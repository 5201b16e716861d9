import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState, useSyncExternalStore } from "react";
import { bringIn, readCarried, saveCarried } from "@/offline/carried";
import { describeOperation } from "@/offline/kinds";
import type { Operation, Scope } from "@/offline/operation";
import { outbox } from "@/offline/outbox";
import { scopeKind } from "@/offline/scopes";
import { type Signal, sender } from "@/offline/sender";
import { useQueued } from "@/offline/use-queued";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { notify } from "@/ui/Notice";
import { formatDay, formatTime, plural } from "@/ui/words/format";

const WHY: Record<Signal, string> = {
  sent: "Nothing stands in the way.",
  sending: "They are being sent now.",
  held: "Some belong to an entry that was not accepted: decide that one first.",
  waits:
    "Some belong to an entry that is not on the server yet, such as a run that another tablet started: they are sent when it is.",
  "no answer":
    "There is no signal, or the server does not answer. They are tried again by themselves; leave this page or not.",
  "sign in": "Your sign-in has run out. Sign in again; nothing is lost.",
  "other person": "Somebody else is signed in on the server. Their own person sends them.",
};
/** This device's own zone: an entry may be of an outing whose water it does not know. */
const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
/** As many entries of an outing are listed; the rest is a number. */
const SHOWN = 30;

async function giveUp(operation: Operation): Promise<void> {
  const { gone, takeBack } = await outbox.giveUp(operation);
  notify(
    gone.length > 1
      ? `${plural(gone.length, "entry", "entries")} given up: it, and what belonged to it.`
      : "Entry given up.",
    () => void takeBack().then(sender.wake),
  );
}

/** All that this device has and the server has not: what, whose, why it waits; out as a file and in again. */
export function WaitingScreen() {
  const { person, membership, memberships } = useHere();
  const queued = useQueued();
  const signal = useSyncExternalStore(sender.subscribe, () => sender.signal);
  const [told, setTold] = useState("");
  const mine = queued.filter((each) => each.person === person.id);
  const byScope = new Map<string, Operation[]>();
  for (const each of queued) {
    const key = `${each.scope.kind} ${each.scope.id}`;
    byScope.set(key, [...(byScope.get(key) ?? []), each]);
  }
  const read = async (file: File) => {
    try {
      const entries = readCarried(
        await file.text(),
        person,
        memberships.map(({ programme }) => programme),
      );
      const fresh = await bringIn(entries);
      setTold(
        `${plural(fresh, "entry", "entries")} imported${fresh < entries.length ? `, ${entries.length - fresh} were here already` : ""}. What their own device signed stays whose it was; the rest stands under your name, with theirs said.`,
      );
      sender.wake();
    } catch (failure) {
      setTold(`! ${file.name}: ${(failure as Error).message}`);
    }
  };
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="text-2xl font-semibold">Waiting to be sent</h1>
      <p className="mt-1 max-w-prose">
        {queued.length === 0
          ? "Nothing waits on this device: all that was kept here is on the server."
          : `${plural(queued.length, "entry", "entries")} on this device only. ${mine.some(({ state }) => state === "waiting") ? WHY[signal] : ""}`}
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Button large look="ink" disabled={!queued.length} onClick={() => void saveCarried(queued)}>
          Save them as a file
        </Button>
        <FileButton
          label="Import a file of entries"
          accept="application/json,.json"
          onFile={(file) => void read(file)}
        />
        <Button large disabled={!mine.length} onClick={() => sender.wake()}>
          Try now
        </Button>
      </div>
      <p className="mt-2 max-w-prose text-sm text-muted">
        The file is for the case that this device finds no signal for long, or fails. Bring it in on any device that has
        one; imported twice, or sent from here as well, each entry is in the record once. Nothing here is deleted by it.
      </p>
      <p role="status" className="mt-2 font-semibold">
        {told}
      </p>
      {[...byScope].map(([key, entries]) => (
        <section
          key={key}
          className="mt-4 border-t border-ink pt-2"
          aria-label={`Entries of one ${entries[0]!.scope.kind}`}
        >
          <h2 className="font-semibold">
            <ScopeLink scope={entries[0]!.scope} programme={membership.programme} />:{" "}
            {plural(entries.length, "entry", "entries")}
          </h2>
          <ul>
            {entries.slice(0, SHOWN).map((each) => (
              <li key={each.id} className="flex flex-wrap gap-x-4 border-b border-line py-1">
                <span className="text-muted">
                  {formatDay(each.device_time)} {formatTime(each.device_time, HERE)}
                </span>
                <strong>{describeOperation(each)}</strong>
                {each.person !== person.id && <span>of {each.person_name ?? "somebody else"}, who sends it</span>}
                {each.by && each.by !== each.person && <span>called by somebody who had taken over</span>}
                <span className={each.state === "refused" ? "font-semibold text-signal" : "text-muted"}>
                  {each.unsaved && "! not on the disk of this device "}
                  {each.state === "refused"
                    ? `! not accepted: ${each.error?.message ?? ""}`
                    : (sender.reasons.get(each.id) ?? (each.heavy ? "after all others" : ""))}
                </span>
                {each.person === person.id && (each.state === "refused" || sender.reasons.has(each.id)) && (
                  <Button className="ml-auto" onClick={() => void giveUp(each)}>
                    Give up
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {entries.length > SHOWN && <p className="text-muted">and {entries.length - SHOWN} more</p>}
        </section>
      ))}
    </main>
  );
}

/** What something is called that entries belong to, and the way to its page. */
function ScopeLink({ scope, programme }: { scope: Scope; programme: string }) {
  const kind = scopeKind(scope.kind);
  const names = useQuery({
    queryKey: [scope.kind, programme, "names"],
    queryFn: () => kind?.names(programme) ?? [],
    retry: false,
  });
  if (!kind) return <>Entries of a kind that this version does not know</>;
  return (
    <Link {...kind.link(scope.id)} className="underline underline-offset-4">
      {names.data?.find(({ id }) => id === scope.id)?.name ?? kind.unnamed}
    </Link>
  );
}
