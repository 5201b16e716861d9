import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { answer, api, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { fieldWords, valueWords } from "@/ui/words/changed";
import { formatDay, formatTime } from "@/ui/words/format";

/** The reader's own zone: two outings may lie in two. */
const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

type Crossed = Schemas["Crossed"];
type Word = Schemas["Word"];

/** What two people put right differently, neither knowing of the other: both words, and which of them stands. */
export function CrossedSheet({ programme, onClose }: { programme: string; onClose: () => void }) {
  const path = { programme_id: programme };
  const queries = useQueryClient();
  const key = ["crossed", programme];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/crossed", { params: { path } })),
  });
  const lookAt = useMutation({
    mutationFn: (change: string) =>
      answer(api.POST("/api/v1/programmes/{programme_id}/crossed", { params: { path }, body: { change } })),
    onSuccess: (left) => {
      queries.setQueryData(key, left);
      void queries.invalidateQueries({ queryKey: ["today", programme] });
    },
  });
  return (
    <Sheet
      open
      onOpenChange={onClose}
      wide
      title="Conflicting edits by two people"
      description="Neither knew of the other's word. The one made later stands; both are in the history. Where the other one is right, correct it on the outing; where this one is, say so."
    >
      {(error ?? lookAt.error) && <ErrorMessage failure={(error ?? lookAt.error)!} />}
      {data?.length === 0 && <p className="mt-3">Nothing is left to look at.</p>}
      <ul aria-label="Two words" className="mt-3">
        {data?.map((each) => (
          <li key={each.change + each.field} className="border-t border-line py-2">
            <p>
              <strong>{each.what}</strong>, {fieldWords(each.field)} ·{" "}
              <Link
                to="/deck/$outing"
                params={{ outing: each.outing }}
                className="underline decoration-line underline-offset-4 hover:decoration-ink"
              >
                {each.outing_name}
              </Link>
            </p>
            <div className="mt-1 flex flex-wrap items-center gap-x-6 gap-y-1">
              <Said word={each.stands} of={each} stands />
              <Said word={each.other} of={each} />
              <Button className="ml-auto" disabled={lookAt.isPending} onClick={() => lookAt.mutate(each.change)}>
                Right as it stands
              </Button>
            </div>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

function Said({ word, of, stands = false }: { word: Word; of: Crossed; stands?: boolean }) {
  return (
    <p className={stands ? "" : "text-muted"}>
      <span className={stands ? "font-semibold" : "line-through"}>{valueWords(of.field, word.value)}</span>{" "}
      {word.person}, {formatDay(word.at)} {formatTime(word.at, HERE)}
      {stands && ", stands"}
    </p>
  );
}
