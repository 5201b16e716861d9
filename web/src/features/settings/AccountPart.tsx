import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { answer, api } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { useHere, useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { DAY_LANGUAGES } from "@/ui/words/day-language";
import { useAccount, useChangeAccount } from "./queries";
import { SecondStep } from "./SecondStep";
import { Tokens } from "./Tokens";

type Account = Schemas["Account"];

/** One's own name, units, password, sign-ins and tokens. */
export function AccountPart() {
  const { data: account, error } = useAccount();
  const setSession = useSetSession();
  if (error) return <ErrorMessage failure={error} />;
  if (!account) return <p className="text-muted">Reading your account...</p>;
  const everywhere = () =>
    answer(api.POST("/api/v1/session/everywhere")).then(setSession, (failure: Error) => notify(failure.message));
  return (
    <div className="grid max-w-xl gap-8">
      <Own account={account} />
      {account.has_password && <Password />}
      {account.has_password && <SecondStep account={account} />}
      <ShortCode account={account} />
      <section aria-labelledby="sign-ins">
        <h3 id="sign-ins" className="font-semibold">
          Sign-ins
        </h3>
        <p className="text-muted">
          A tablet or phone of yours is lost? This signs you out on every device, this one among them, and ends your
          tokens. What is unsent on a device stays there until you sign in on it again.
        </p>
        <Button className="mt-2" onClick={everywhere}>
          Sign out everywhere
        </Button>
      </section>
      <Tokens />
      <AboutMe hasPassword={account.has_password} />
    </div>
  );
}

function Own({ account }: { account: Account }) {
  const { membership } = useHere();
  const change = useChangeAccount();
  const [edited, setEdited] = useState<Partial<Account>>({});
  const values = { ...account, ...edited };
  const errors = fieldErrors(change.error);
  const set = (name: keyof Account) => (event: { target: { value: string } }) =>
    setEdited({ ...edited, [name]: event.target.value });
  return (
    <form
      className="mt-3 grid grid-cols-2 gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(edited as Schemas["ChangeAccountRequest"], {
          onSuccess: () => {
            setEdited({});
            notify("Kept.");
          },
        });
      }}
    >
      <Field
        label="Name, as it stands in the record"
        value={values.name}
        required
        maxLength={80}
        error={errors.name}
        onChange={set("name")}
      />
      <Field label="Mail address" type="email" value={values.email} error={errors.email} onChange={set("email")} />
      <Choice label="Length unit" value={values.length_unit} onChange={set("length_unit")}>
        <option value="">programme: {membership.length_unit}</option>
        <option>mm</option>
        <option>cm</option>
        <option>in</option>
      </Choice>
      <Choice label="Weight unit" value={values.mass_unit} onChange={set("mass_unit")}>
        <option value="">programme: {membership.mass_unit}</option>
        <option>g</option>
        <option>kg</option>
        <option>lb</option>
        <option>oz</option>
      </Choice>
      <Choice label="Dates are written in" value={values.date_language} onChange={set("date_language")}>
        <option value="">as the programme</option>
        {Object.entries(DAY_LANGUAGES).map(([code, label]) => (
          <option key={code} value={code}>
            {label}
          </option>
        ))}
      </Choice>
      <p className="self-end text-sm text-muted">
        You sign in as <strong>{account.username}</strong>.
      </p>
      {change.error && (
        <div className="col-span-2">
          <ErrorMessage failure={change.error} />
        </div>
      )}
      <Button type="submit" look="ink" large disabled={!Object.keys(edited).length || change.isPending}>
        Save
      </Button>
    </form>
  );
}

/** By which one takes over a tablet that somebody else is signed in on, also with no signal. */
function ShortCode({ account }: { account: Account }) {
  const client = useQueryClient();
  const [code, setCode] = useState("");
  const [failure, setFailure] = useState<Error | null>(null);
  const set = (next: string) =>
    answer(api.POST("/api/v1/account/short-code", { body: { code: next } })).then((now) => {
      client.setQueryData(["account"], now);
      setCode("");
      setFailure(null);
      notify(next ? "Kept. Tablets know it the next time they read an outing." : "You have no short code any more.");
    }, setFailure);
  return (
    <section aria-labelledby="short-code">
      <h3 id="short-code" className="font-semibold">
        Short code for shared tablets
      </h3>
      <p className="text-muted">
        With it you take over a tablet of your crew on the deck, also with no signal: what you call stands under your
        name. It opens nothing else. {account.has_short_code ? "You have one." : "You have none."}
      </p>
      <form
        className="mt-2 flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void set(code);
        }}
      >
        <Field
          label="4 to 8 figures"
          value={code}
          inputMode="numeric"
          maxLength={8}
          autoComplete="off"
          error={fieldErrors(failure).code}
          onChange={(event) => setCode(event.target.value.replace(/\D/g, ""))}
        />
        <Button type="submit" disabled={code.length < 4}>
          Save
        </Button>
        {account.has_short_code && <Button onClick={() => set("")}>Take it away</Button>}
      </form>
    </section>
  );
}

/** What is stored about oneself, and being forgotten. */
function AboutMe({ hasPassword }: { hasPassword: boolean }) {
  const setSession = useSetSession();
  const [password, setPassword] = useState("");
  const [failure, setFailure] = useState<Error | null>(null);
  const forget = () => answer(api.POST("/api/v1/account/forget", { body: { password } })).then(setSession, setFailure);
  return (
    <section aria-labelledby="about-me">
      <h3 id="about-me" className="font-semibold">
        What is stored about me
      </h3>
      <p className="text-muted">
        Your account, and which rows name you; no password or code. What you recorded belongs to its programme.
      </p>
      <a
        className="mt-2 inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-4"
        href="/api/v1/account/data"
        download
      >
        Download my data (JSON)
      </a>
      {hasPassword && (
        <details className="mt-3">
          <summary className="min-h-[44px] cursor-pointer py-2 underline underline-offset-4">To be forgotten</summary>
          <form
            className="grid max-w-sm gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void forget();
            }}
          >
            <p>
              Your name, mail address and account go, here and in every programme of this server, for good. What you
              recorded stays, under "Forgotten person". This cannot be undone.
            </p>
            <Field
              label="Password, to be sure"
              type="password"
              autoComplete="current-password"
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
            {failure && <ErrorMessage failure={failure} />}
            <Button type="submit" look="signal" disabled={!password}>
              Forget me
            </Button>
          </form>
        </details>
      )}
    </section>
  );
}

function Password() {
  const [typed, setTyped] = useState({ old: "", new: "" });
  const [failure, setFailure] = useState<Error | null>(null);
  const errors = fieldErrors(failure);
  const change = () =>
    answer(api.POST("/api/v1/account/password", { body: typed })).then(() => {
      setTyped({ old: "", new: "" });
      setFailure(null);
      notify("Your password is changed. Every other sign-in of yours has ended.");
    }, setFailure);
  return (
    <section aria-labelledby="password">
      <h3 id="password" className="font-semibold">
        Password
      </h3>
      <form
        className="mt-2 grid grid-cols-2 items-start gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void change();
        }}
      >
        <Field
          label="Current password"
          type="password"
          autoComplete="current-password"
          value={typed.old}
          required
          error={errors.old}
          onChange={(event) => setTyped({ ...typed, old: event.target.value })}
        />
        <Field
          label="The new one"
          hint="At least 12 characters."
          type="password"
          autoComplete="new-password"
          value={typed.new}
          required
          error={errors.new ?? errors.password}
          onChange={(event) => setTyped({ ...typed, new: event.target.value })}
        />
        {failure && !Object.keys(errors).length && (
          <div className="col-span-2">
            <ErrorMessage failure={failure} />
          </div>
        )}
        <Button type="submit" disabled={!typed.old || !typed.new}>
          Change the password
        </Button>
      </form>
    </section>
  );
}
