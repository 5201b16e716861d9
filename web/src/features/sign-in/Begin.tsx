import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { answer, api } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { newProgramme, ProgrammeFields } from "@/features/programme";
import { useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { PersonFields } from "./PersonFields";

/** The first page of an installation: its lead's account and the programme, by the code that the server printed. */
export function Begin({ onLeave }: { onLeave?: () => void }) {
  const setSession = useSetSession();
  const navigate = useNavigate();
  const [code, setCode] = useState("");
  const [email, setEmail] = useState("");
  const [person, setPerson] = useState({ name: "", username: "", password: "" });
  const [programme, setProgramme] = useState(newProgramme);
  const [failure, setFailure] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const errors = fieldErrors(failure);
  // "name" is a field of both: whose it is stands before the point
  const of = (part: string) => {
    const whole = failure && "field" in failure ? String(failure.field) : "";
    return whole.includes(".") && !whole.startsWith(part) ? {} : errors;
  };
  const begin = async () => {
    setBusy(true);
    setFailure(null);
    try {
      const session = await answer(
        api.POST("/api/v1/first", { body: { code, person: { ...person, email }, programme } }),
      );
      await navigate({ to: "/settings/$part", params: { part: "waters" } });
      await setSession(session);
    } catch (error) {
      setFailure(error as Error);
      setBusy(false);
    }
  };
  return (
    <form
      className="max-w-4xl"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <p className="font-semibold tracking-wide text-muted">Nailwright</p>
      <h1 className="text-3xl font-semibold">Begin your own programme</h1>
      <p className="mt-1 max-w-prose text-muted">
        You become its lead. Then come its water, its species and its people, in as many steps as you like; you can be
        fishing with it this afternoon.
      </p>
      <div className="mt-4 max-w-sm">
        <Field
          label="Code that the server printed when it started"
          hint="So that no stranger claims this server. Three groups of four, such as K7QF-2M9X-HP4T."
          autoComplete="one-time-code"
          autoCapitalize="characters"
          value={code}
          maxLength={40}
          required
          error={errors.code}
          onChange={(event) => setCode(event.target.value)}
        />
      </div>
      <div className="mt-5 grid gap-x-10 gap-y-6 md:grid-cols-2">
        <section aria-labelledby="account">
          <h2 id="account" className="mb-2 text-xl font-semibold">
            You
          </h2>
          <PersonFields values={person} onChange={setPerson} errors={of("person")} />
          <div className="mt-3">
            <Field
              label="Mail address (may be left empty)"
              hint="For a forgotten password."
              type="email"
              autoComplete="email"
              value={email}
              error={errors.email}
              onChange={(event) => setEmail(event.target.value)}
            />
          </div>
        </section>
        <section aria-labelledby="programme">
          <h2 id="programme" className="mb-2 text-xl font-semibold">
            The programme
          </h2>
          <ProgrammeFields values={programme} onChange={setProgramme} errors={of("programme")} />
        </section>
      </div>
      {failure && !Object.keys(errors).length && (
        <div className="mt-4">
          <ErrorMessage failure={failure} />
        </div>
      )}
      <div className="mt-5 flex gap-3">
        <Button type="submit" look="ink" large disabled={busy}>
          Make the account and the programme
        </Button>
        {onLeave && (
          <Button large onClick={onLeave}>
            Back
          </Button>
        )}
      </div>
    </form>
  );
}
