import { useMutation, useQueryClient } from "@tanstack/react-query";
import { v7 as uuidv7 } from "uuid";
import { answer, api } from "@/api/client";
import { asQuery, type Selection } from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";

/** The question spelt out: what is kept shall not hang on another row. */
const withoutKey = ({ chosen: _, ...query }: Selection) => asQuery(query);

/** Keeps the finding in sight: question, answer, seed, and a mark of the rows behind it. */
export function KeepButton({ kind, selection }: { kind: string; selection: Selection }) {
  const { membership } = useHere();
  const client = useQueryClient();
  const keep = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/v1/programmes/{programme_id}/kept-findings", {
          params: { path: { programme_id: membership.programme } },
          body: { id: uuidv7(), kind, query: withoutKey(selection), title: "" },
        }),
      ),
    onSuccess: () => {
      notify("Kept; find it again under Kept.");
      return client.invalidateQueries({ queryKey: ["kept-findings"] });
    },
  });
  return (
    <>
      <Button large onClick={() => keep.mutate()} disabled={keep.isPending}>
        Keep this finding
      </Button>
      {keep.error && <ErrorMessage failure={keep.error} />}
    </>
  );
}
