import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { answer, api } from "@/api/client";
import { useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { useLinkKey } from "./use-link-key";

/** What the link for a forgotten password opens. */
export function NewPassword() {
  const [person = "", token = ""] = useLinkKey().split(/\.(.*)/s);
  const navigate = useNavigate();
  const setSession = useSetSession();
  const [password, setPassword] = useState("");
  const [failure, setFailure] = useState<Error | null>(null);
  const set = () =>
    answer(api.POST("/api/v1/password/reset", { body: { person, token, password } })).then(async (session) => {
      await navigate({ to: "/" });
      await setSession(session);
    }, setFailure);
  return (
    <main className="mx-auto max-w-md px-4 py-6">
      <h1 className="text-2xl font-semibold">A new password</h1>
      <form
        className="mt-4 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void set();
        }}
      >
        <Field
          label="New password"
          hint="At least 12 characters. Every other sign-in of yours ends."
          type="password"
          autoComplete="new-password"
          value={password}
          required
          onChange={(event) => setPassword(event.target.value)}
        />
        <Button type="submit" look="ink" large>
          Set it
        </Button>
        {failure && <ErrorMessage failure={failure} />}
      </form>
    </main>
  );
}
