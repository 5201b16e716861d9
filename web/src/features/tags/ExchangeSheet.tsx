import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { plural } from "@/ui/words/format";
import { useForeignMarks, useForgetForeignMarks, useTakeForeignMarks } from "./queries";

/** Marks at large that programmes tell each other: theirs come in, ours go out. */
export function ExchangeSheet({ onClose }: { onClose: () => void }) {
  const { membership, may } = useHere();
  const { data: owners, error } = useForeignMarks(membership.programme);
  const take = useTakeForeignMarks(membership.programme);
  const forget = useForgetForeignMarks(membership.programme);
  const failure = error ?? take.error ?? forget.error;
  const to = `/api/v1/programmes/${membership.programme}/marks-at-large`;
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Tags of other programmes"
      description="Whose a number is that is none of yours: told on the fish's page and beside a finder's report."
    >
      <h3 className="font-semibold">Imported so far</h3>
      {owners?.length === 0 && <p className="text-muted">None yet. Ask your neighbours for their marks at large.</p>}
      <ul>
        {owners?.map(({ owner, n }) => (
          <li key={owner} className="flex flex-wrap items-center gap-x-4 border-b border-line py-1">
            <span className="flex-1">
              {owner}: {plural(n, "tag")}
            </span>
            <Button
              aria-label={`Remove the tags of ${owner}`}
              disabled={forget.isPending}
              onClick={() => forget.mutate(owner)}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className="pt-3">
        <FileButton accept=".csv,.zip,.xlsx" label="Import a file of theirs" onFile={(file) => take.mutate(file)} />
      </div>
      {take.data && (
        <div role="status" className="pt-2">
          <p>
            {plural(take.data.new, "tag")} new, {take.data.changed} changed, {take.data.same} unchanged.
          </p>
          {take.data.unread_n > 0 && (
            <>
              <p className="text-signal">{plural(take.data.unread_n, "line")} not read:</p>
              <ul>
                {take.data.unread.map(({ text, why }) => (
                  <li key={text}>
                    {text}: {why}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
      {failure && <ErrorMessage failure={failure} />}
      {may("lead") && (
        <>
          <h3 className="pt-4 font-semibold">Export your own</h3>
          <p className="pb-2 text-sm text-muted">
            Every tag in a living fish: number, kind, colour, species, day, water, place to a tenth of a degree (none of
            protected species), and your contact. Give it to programmes that you trust: it holds your numbers.
          </p>
          <div className="flex flex-wrap gap-2">
            {[
              ["csv", "Marks at large, CSV"],
              ["zip", "Marks at large, Data Package"],
            ].map(([form, words]) => (
              <a
                key={form}
                className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
                href={`${to}.${form}`}
                download
              >
                {words}
              </a>
            ))}
          </div>
        </>
      )}
    </Sheet>
  );
}
