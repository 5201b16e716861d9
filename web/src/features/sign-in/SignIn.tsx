import { type ChangeEvent, useState } from "react";
import { ApiError, answer, api } from "@/api/client";
import { ROLES } from "@/features/programme";
import { useQueued } from "@/offline/use-queued";
import { type Session, useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { plural } from "@/ui/words/format";
import { Begin } from "./Begin";
import { BoardAtWork } from "./BoardAtWork";

const EXPECTED = {
  username: "Expected your name as the programme knows it.",
  password: "Expected your password.",
};

/** Entries that wait on this device, each for the person who made it: nobody else's sign-in sends them. */
function UnsentHere() {
  const queued = useQueued();
  const names = new Map<string, number>();
  for (const { person_name = "somebody" } of queued) names.set(person_name, (names.get(person_name) ?? 0) + 1);
  if (!names.size) return null;
  return (
    <p role="status" className="mb-6 border-l-4 border-signal bg-wash px-3 py-2">
      Not sent yet from this device:{" "}
      {[...names].map(([name, n]) => `${plural(n, "entry", "entries")} of ${name}`).join(", ")}. They are sent when that
      person signs in here.
    </p>
  );
}

export function SignIn({ session }: { session: Session }) {
  const [failure, setFailure] = useState<Error | null>(null);
  const setSession = useSetSession();
  // two fields need no library for forms: this page is on the way of every tablet to its Deck
  const [typed, setTyped] = useState({ username: "", password: "", code: "" });
  const [told, setTold] = useState("");
  const [beginning, setBeginning] = useState(false);
  const [tried, setTried] = useState(false);
  const missing = (name: keyof typeof EXPECTED) => (tried && !typed[name] ? EXPECTED[name] : undefined);
  const set = (name: keyof typeof typed) => (event: ChangeEvent<HTMLInputElement>) =>
    setTyped({ ...typed, [name]: event.target.value });
  const enter = (call: Promise<Session>) => call.then(setSession, setFailure);
  const codeNeeded = failure instanceof ApiError && failure.field === "code";
  const demo = session.demo_people.length > 0;
  const forgotten = () =>
    answer(api.POST("/api/v1/password/forgotten", { body: { username: typed.username } })).then(
      () => setTold("If there is such a person with a mail address, a letter is on its way."),
      setFailure,
    );
  if (beginning || !(session.claimed || demo))
    return (
      <main className="mx-auto max-w-6xl px-6 py-6 max-sm:px-3">
        <Begin onLeave={demo ? () => setBeginning(false) : undefined} />
      </main>
    );
  return (
    <main className="mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-6 px-6 py-6 max-sm:px-3 md:grid-cols-[minmax(0,4fr)_minmax(0,5fr)]">
      <div className="-mx-4 max-sm:-mx-3 md:col-span-2">
        <BoardAtWork />
      </div>
      <section>
        <UnsentHere />
        <h1 className="text-4xl font-semibold">Nailwright</h1>
        <p className="mt-2 max-w-prose text-lg">
          Plan the outing, work the deck, and find out whether the population is healthy.
        </p>
        <form
          className="mt-4 flex max-w-sm flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            setTried(true);
            if (typed.username && typed.password) {
              const { code, ...who } = typed;
              void enter(answer(api.POST("/api/v1/session", { body: code ? typed : who })));
            }
          }}
          noValidate
        >
          <Field
            label="Name"
            autoComplete="username"
            error={missing("username")}
            value={typed.username}
            onChange={set("username")}
          />
          <Field
            label="Password"
            type="password"
            autoComplete="current-password"
            error={missing("password")}
            value={typed.password}
            onChange={set("password")}
          />
          {(codeNeeded || typed.code) && (
            <Field
              label="Code from your phone"
              inputMode="text"
              autoComplete="one-time-code"
              autoFocus
              value={typed.code}
              onChange={set("code")}
            />
          )}
          <Button type="submit" look={demo ? "plain" : "ink"} large>
            Sign in
          </Button>
        </form>
        {session.claimed &&
          (session.mail ? (
            <Button className="mt-3" onClick={forgotten} disabled={!typed.username}>
              I have forgotten my password
            </Button>
          ) : (
            <p className="mt-3 max-w-sm text-sm text-muted">
              Forgotten your password? Your lead can make a link for you, under Settings, People.
            </p>
          ))}
        {told && (
          <p role="status" className="mt-2">
            {told}
          </p>
        )}
        {!session.claimed && (
          <div className="mt-6 max-w-sm border-t border-line pt-4">
            <Button look="ink" large onClick={() => setBeginning(true)}>
              Begin your own programme
            </Button>
            <p className="mt-2 text-sm text-muted">
              With your own waters, species and people, beside the demo; the demo can be taken out later.
            </p>
          </div>
        )}
        <p className="mt-6 text-sm text-muted">Version {session.version}</p>
        {failure && (
          <div className="mt-4">
            <ErrorMessage failure={failure} />
          </div>
        )}
      </section>
      {demo && (
        <section aria-labelledby="demo">
          <h2 id="demo" className="text-xl font-semibold">
            Try the demo as
          </h2>
          <p className="max-w-prose text-muted">
            The Ossling basin, its fish and its people are made up. Nothing here is a real place or record.
          </p>
          <ul className="mt-3 border-t border-line">
            {session.demo_people.map((each) => (
              <li key={each.username} className="border-b border-line">
                <button
                  type="button"
                  className="flex min-h-14 w-full cursor-pointer items-baseline gap-3 px-1 py-2 text-left hover:bg-wash"
                  onClick={() => enter(answer(api.POST("/api/v1/session/demo", { body: { username: each.username } })))}
                >
                  <strong className="w-24 shrink-0 capitalize">{each.role}</strong>
                  <span>
                    {each.name}
                    <span className="block text-sm text-muted">{ROLES[each.role].does}</span>
                    <span className="block text-sm">{ROLES[each.role].tries}</span>
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  );
}
