import { useMutation, useQueryClient } from "@tanstack/react-query";
import { v7 as uuidv7 } from "uuid";
import { answer, api } from "@/api/client";
import { asQuery, type Selection } from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";

/** The question spelt out: what is saved must not hang on another row. */
const withoutKey = ({ chosen: _, ...query }: Selection) => asQuery(query);

/** Saves the finding in sight: question, answer, seed, and a fingerprint of the rows behind it. */
export function SaveFinding({ kind, selection }: { kind: string; selection: Selection }) {
  const { membership } = useHere();
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/v1/programmes/{programme_id}/saved-findings", {
          params: { path: { programme_id: membership.programme } },
          body: { id: uuidv7(), kind, query: withoutKey(selection), title: "" },
        }),
      ),
    onSuccess: () => {
      notify("Finding saved. It is listed under Saved findings.");
      return client.invalidateQueries({ queryKey: ["saved-findings"] });
    },
  });
  return (
    <>
      <Button large onClick={() => save.mutate()} disabled={save.isPending}>
        Save finding
      </Button>
      {save.error && <ErrorMessage failure={save.error} />}
    </>
  );
}
