import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatDay, plural } from "@/ui/words/format";
import { type ListedKit, useCardLetter, useSendCardLetter } from "./queries";

/** The letter that asks a volunteer for what their cards do not say: read before it goes, sent or copied. */
export function CardLetterSheet({ kit, onClose }: { kit: ListedKit; onClose: () => void }) {
  const { membership } = useHere();
  const { data: letter, error } = useCardLetter(kit.id);
  const send = useSendCardLetter(membership.programme, kit.id);
  const go = (by_mail: boolean) =>
    send.mutate(by_mail, {
      onSuccess: () => {
        notify(by_mail ? `Letter to ${kit.name} sent.` : "Copied and noted.");
        onClose();
      },
    });
  const copy = (text: string) =>
    navigator.clipboard.writeText(text).then(
      () => go(false),
      () => notify("This browser does not let a page copy: mark the letter and copy it."),
    );
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Letter to ${kit.name}`}
      description={
        letter ? `About ${plural(letter.cards, "card")}, in the language that they chose.` : "Being written..."
      }
    >
      {(error ?? send.error) && <ErrorMessage failure={(error ?? send.error)!} />}
      {letter && (
        <div className="grid gap-3">
          <p className="text-sm text-muted">
            {letter.to ? `To ${letter.to}.` : "No mail address is known: copy the text and hand it over."}{" "}
            {letter.to &&
              !letter.by_mail &&
              "This installation sends no mail: copy the text into a letter of your own."}
            {letter.asked_at && ` Last asked ${formatDay(letter.asked_at)}.`}
          </p>
          <pre className="max-h-[50dvh] overflow-y-auto border border-line bg-raised p-3 font-sans whitespace-pre-wrap select-all">
            {`${letter.subject}\n\n${letter.text}`}
          </pre>
          <div className="flex flex-wrap gap-2">
            {letter.by_mail && (
              <Button look="ink" large disabled={send.isPending} onClick={() => go(true)}>
                Send letter
              </Button>
            )}
            <Button
              large
              look={letter.by_mail ? "plain" : "ink"}
              disabled={send.isPending}
              onClick={() => void copy(`${letter.subject}\n\n${letter.text}`)}
            >
              Copy letter
            </Button>
          </div>
        </div>
      )}
    </Sheet>
  );
}
