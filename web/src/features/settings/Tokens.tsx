import { useState } from "react";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { Button } from "@/ui/Button";
import { Choices } from "@/ui/Choices";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { useTokenStep, useTokens } from "./queries";

type Scope = Schemas["TokenScopeEnum"];
const MAY: Record<Scope, string> = { read: "read", record: "read and send entries", all: "all that I may" };

/** The tokens with which programs speak for one. */
export function Tokens() {
  const { data: tokens } = useTokens();
  const { make, end } = useTokenStep();
  const [name, setName] = useState("");
  const [scope, setScope] = useState<Scope>("read");
  const [days, setDays] = useState("90");
  const errors = fieldErrors(make.error);
  return (
    <section aria-labelledby="tokens">
      <h3 id="tokens" className="font-semibold">
        Tokens for programs
      </h3>
      <p className="text-muted">
        Everything a screen does can be done by a program with a token of yours, and no more than you may do.
      </p>
      <ul className="mt-2">
        {tokens?.map((each) => (
          <li key={each.id} className="flex flex-wrap items-center gap-x-4 border-t border-line py-1.5">
            <span>
              {each.name}
              <span className="block text-sm text-muted">
                may {MAY[each.scope]}; until {formatDay(each.ends_at)};{" "}
                {each.last_used_at ? `last used ${formatDay(each.last_used_at)}` : "never used"}
              </span>
            </span>
            <Button className="ml-auto" aria-label={`End the token ${each.name}`} onClick={() => end.mutate(each.id)}>
              End it
            </Button>
          </li>
        ))}
      </ul>
      {make.data && (
        <p className="mt-2 border border-ink bg-raised p-2">
          Shown this once, good until {formatDay(make.data.ends_at)}:{" "}
          <code className="break-all select-all">{make.data.token}</code>
          <span className="block text-sm text-muted">Send it as the header Authorization: Token …</span>
        </p>
      )}
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate({ name, scope, days: Number(days) });
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <Field
            label="Purpose"
            value={name}
            required
            maxLength={60}
            error={errors.name}
            onChange={(event) => setName(event.target.value)}
          />
          <Field
            label="For days (1 to 366)"
            type="number"
            min={1}
            max={366}
            value={days}
            required
            error={errors.days}
            onChange={(event) => setDays(event.target.value)}
          />
        </div>
        <Choices
          label="Access"
          options={(Object.keys(MAY) as Scope[]).map((value) => ({ value, label: MAY[value] }))}
          chosen={scope}
          onChoose={setScope}
        />
        {make.error && !Object.keys(errors).length && <ErrorMessage failure={make.error} />}
        <div>
          <Button type="submit">Make a token</Button>
        </div>
      </form>
    </section>
  );
}
