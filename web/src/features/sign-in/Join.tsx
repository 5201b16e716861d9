import { useNavigate } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { ROLES } from "@/features/programme";
import { type Session, useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { PersonFields } from "./PersonFields";
import { useLinkKey } from "./use-link-key";

/** What an invitation's link opens: coming into a programme, as who is signed in or as somebody new. */
export function Join({ session }: { session: Session }) {
  const key = useLinkKey();
  const navigate = useNavigate();
  const setSession = useSetSession();
  const [shown, setShown] = useState<Schemas["InvitationShown"] | null>(null);
  const [refusal, setRefusal] = useState<Error | null>(null);
  const [failure, setFailure] = useState<Error | null>(null);
  const [person, setPerson] = useState({ name: "", username: "", password: "" });
  useEffect(() => {
    answer(api.POST("/api/v1/invitations/look", { body: { key } })).then((invitation) => {
      setShown(invitation);
      setPerson((before) => ({ ...before, name: before.name || invitation.name }));
    }, setRefusal);
  }, [key]);
  const join = (as?: typeof person) =>
    answer(api.POST("/api/v1/invitations/join", { body: { key, ...(as ? { person: as } : {}) } })).then(
      async (came) => {
        await navigate({ to: "/" });
        await setSession(came);
      },
      setFailure,
    );
  return (
    <main className="mx-auto max-w-xl px-4 py-6">
      {refusal && (
        <>
          <h1 className="mb-3 text-2xl font-semibold">Invitation</h1>
          <ErrorMessage failure={refusal} />
        </>
      )}
      {shown && (
        <>
          <h1 className="text-2xl font-semibold">
            {shown.inviter} invites you to {shown.programme}
          </h1>
          <p className="mt-2">
            As <strong>{shown.role}</strong>, who {ROLES[shown.role].does}. The invitation is good once, until{" "}
            {formatDay(shown.ends_at)}.
          </p>
          {session.person ? (
            <div className="mt-4 flex flex-wrap items-center gap-3">
              <Button look="ink" large onClick={() => join()}>
                Come in as {session.person.name}
              </Button>
              <p className="text-sm text-muted">Somebody else? Sign out first, then open the link again.</p>
            </div>
          ) : (
            <form
              className="mt-4 grid gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                void join(person);
              }}
            >
              <PersonFields values={person} onChange={setPerson} errors={fieldErrors(failure)} />
              <p className="text-sm text-muted">
                You have an account here already? Sign in first, then open the link again.
              </p>
              <Button type="submit" look="ink" large>
                Come in
              </Button>
            </form>
          )}
          {failure && (
            <div className="mt-3">
              <ErrorMessage failure={failure} />
            </div>
          )}
        </>
      )}
    </main>
  );
}
