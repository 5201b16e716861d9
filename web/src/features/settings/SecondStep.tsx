import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";

/** One-time codes of a phone as a second step of signing in. */
export function SecondStep({ account }: { account: Schemas["Account"] }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const close = () => {
    setOpen(false);
    void client.invalidateQueries({ queryKey: ["account"] });
  };
  return (
    <section aria-labelledby="second-step">
      <h3 id="second-step" className="font-semibold">
        Second step of signing in
      </h3>
      <p className="text-muted">
        {account.second_step
          ? `On: signing in asks for a code of your phone. ${plural(account.recovery_codes_left, "written code")} left for when it is lost.`
          : "Off. A lead's account opens people and permits: a code of your phone beside the password keeps it yours."}
      </p>
      <Button className="mt-2" onClick={() => setOpen(true)}>
        {account.second_step ? "Turn off two-step sign-in" : "Begin with codes"}
      </Button>
      {open && (account.second_step ? <End onClose={close} /> : <BeginCodes onClose={close} />)}
    </section>
  );
}

function BeginCodes({ onClose }: { onClose: () => void }) {
  const [offered, setOffered] = useState<Schemas["Offered"] | null>(null);
  const [typed, setTyped] = useState({ password: "", code: "" });
  const [codes, setCodes] = useState<readonly string[] | null>(null);
  const [failure, setFailure] = useState<Error | null>(null);
  const errors = fieldErrors(failure);
  const offer = () => answer(api.GET("/api/v1/account/second-step")).then(setOffered, setFailure);
  const begin = () =>
    answer(api.POST("/api/v1/account/second-step", { body: { ...typed, key: offered!.key } })).then(
      (made) => setCodes(made.codes),
      setFailure,
    );
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title="Two-step sign-in"
      description="Any application for one-time codes will do; it needs no signal."
    >
      {codes ? (
        <>
          <p>
            Write these down and keep them apart from the phone: each opens your account once, when the phone is lost.
          </p>
          <ul className="mt-2 grid grid-cols-2 gap-1 border border-ink bg-raised p-3 font-semibold select-all">
            {codes.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
          <Button look="ink" large className="mt-3" onClick={onClose}>
            I have them
          </Button>
        </>
      ) : offered ? (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void begin();
          }}
        >
          <div className="flex flex-wrap items-center gap-4">
            <img
              alt="The key as a square of dots, for the phone's camera"
              className="size-44 bg-white"
              src={`data:image/svg+xml,${encodeURIComponent(offered.picture.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" '))}`}
            />
            <p className="max-w-56 text-sm">
              Let the phone look at this, or type the key: <code className="break-all select-all">{offered.key}</code>
            </p>
          </div>
          <Field
            label="Code that the phone shows now"
            inputMode="numeric"
            autoComplete="one-time-code"
            value={typed.code}
            required
            error={errors.code}
            onChange={(event) => setTyped({ ...typed, code: event.target.value })}
          />
          <Field
            label="Your password"
            type="password"
            autoComplete="current-password"
            value={typed.password}
            required
            error={errors.password}
            onChange={(event) => setTyped({ ...typed, password: event.target.value })}
          />
          {failure && !Object.keys(errors).length && <ErrorMessage failure={failure} />}
          <Button type="submit" look="ink" large>
            Begin
          </Button>
        </form>
      ) : (
        <>
          <p>From then on signing in asks for your password and a code. A code is good for half a minute, and once.</p>
          {failure && <ErrorMessage failure={failure} />}
          <Button look="ink" large className="mt-3" onClick={offer}>
            Show me the key
          </Button>
        </>
      )}
    </Sheet>
  );
}

function End({ onClose }: { onClose: () => void }) {
  const [code, setCode] = useState("");
  const [failure, setFailure] = useState<Error | null>(null);
  const end = () => answer(api.POST("/api/v1/account/second-step/end", { body: { code } })).then(onClose, setFailure);
  return (
    <Sheet open onOpenChange={onClose} title="Turn off two-step sign-in" description="Needs a code for the last time.">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void end();
        }}
      >
        <Field label="Code" value={code} required onChange={(event) => setCode(event.target.value)} />
        {failure && <ErrorMessage failure={failure} />}
        <Button type="submit" look="signal" large>
          End it
        </Button>
      </form>
    </Sheet>
  );
}
