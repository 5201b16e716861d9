import { Button } from "@/ui/Button";
import { Sheet } from "@/ui/Sheet";
import type { DeckView } from "../document/deck-store";
import type { Token } from "../rules/lanes";
import { byLaneWords, goingOf } from "./going";
import { useNow } from "./use-now";

interface Props {
  view: DeckView;
  onRelease: (tokens: readonly Token[]) => void;
  onClose: () => void;
}

/** Asked before all go at once, where one is late or came from depth: those that nothing speaks against, or all. */
export function ReleaseAllSheet({ view, onRelease, onClose }: Props) {
  const { all, doubtful } = goingOf(view.document, useNow() / 1000);
  const held = new Set(doubtful.map(({ token }) => token.capture.id));
  const others = all.filter(({ capture }) => !held.has(capture.id));
  const go = (tokens: readonly Token[]) => {
    onRelease(tokens);
    onClose();
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="Release all?"
      description={`Aboard: ${byLaneWords(all)}.`}
    >
      <ul aria-label="To be looked at first" className="grid gap-1">
        {doubtful.map(({ token: { capture, lane }, why }) => (
          <li key={capture.id} className="border-l-4 border-signal pl-2">
            <strong>
              {capture.species} {capture.length_text}
            </strong>
            , {lane.word}: {why}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-3">
        {others.length > 0 && (
          <Button large look="ink" onClick={() => go(others)}>
            Release the others: {byLaneWords(others)}
          </Button>
        )}
        <Button large onClick={() => go(all)}>
          Release all of them
        </Button>
        <Button large onClick={onClose}>
          Keep all aboard
        </Button>
      </div>
    </Sheet>
  );
}
