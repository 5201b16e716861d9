import { useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choices } from "@/ui/Choices";
import { Field } from "@/ui/Field";
import { formatDay } from "@/ui/format";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { useHere } from "./session";

type Scope = Schemas["TokenScopeEnum"];

/** Who one is, and the token with which a program may speak for one. */
export function Me({ children }: { children?: React.ReactNode }) {
  const { person, membership } = useHere();
  const [open, setOpen] = useState(false);
  const [token, setToken] = useState<{ token: string; until: string } | null>(null);
  const [failure, setFailure] = useState<Error | null>(null);
  const [scope, setScope] = useState<Scope>("read");
  const [days, setDays] = useState("90");
  const make = () =>
    answer(api.POST("/api/v1/token", { body: { scope, days: Number(days) } })).then(({ token, ends_at }) => {
      setFailure(null);
      setToken({ token, until: formatDay(ends_at) });
    }, setFailure);
  const end = () =>
    answer(api.DELETE("/api/v1/token")).then(() => {
      setToken(null);
      notify("No token speaks for you any more.");
    }, setFailure);
  return (
    <>
      <button
        type="button"
        className="min-h-[44px] cursor-pointer text-sm hover:underline"
        onClick={() => setOpen(true)}
      >
        {person.name}, <span className="text-muted">{membership.role}</span>
      </button>
      <Sheet
        open={open}
        onOpenChange={(now) => {
          setOpen(now);
          if (!now) setToken(null);
        }}
        title={person.name}
        description={`${membership.role} of ${membership.programme_name}`}
      >
        {children}
        <p>
          Everything a screen does can be done by a program with a token, and no more than you may do. Making one ends
          the one before.
        </p>
        <div className="mt-3 flex flex-col gap-3">
          <Choices
            label="It may"
            options={[
              { value: "read" as const, label: "read" },
              { value: "record" as const, label: "read and send entries" },
              { value: "all" as const, label: "all that I may" },
            ]}
            chosen={scope}
            onChoose={setScope}
          />
          <Field
            label="for days (1 to 366)"
            inputMode="numeric"
            value={days}
            onChange={(event) => setDays(event.target.value)}
          />
        </div>
        {failure && <ErrorMessage failure={failure} />}
        {token && (
          <p className="mt-3 border border-ink bg-raised p-2">
            Shown this once, good until {token.until}: <code className="break-all select-all">{token.token}</code>
            <span className="block text-sm text-muted">Send it as the header Authorization: Token …</span>
          </p>
        )}
        <div className="mt-3 flex gap-2">
          <Button look="ink" large onClick={make}>
            Make a token
          </Button>
          <Button large onClick={end}>
            End the token
          </Button>
        </div>
      </Sheet>
    </>
  );
}
