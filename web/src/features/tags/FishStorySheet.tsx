import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { FishLife, FishSheet, useFishStory } from "@/features/records";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";

/** A fish's life as it is known: its tags, and every time it was met, with growth and distance between. */
export function FishStorySheet({ fish, onClose }: { fish: string; onClose: () => void }) {
  const { data: story, error } = useFishStory(fish);
  const [opened, setOpened] = useState<string | null>(null);
  const { membership } = useHere();
  const { data: options } = useSelectionOptions(membership.programme);
  const species = options?.species.find(({ code }) => code === story?.species)?.name ?? story?.species;
  return (
    <Sheet
      wide
      open
      onOpenChange={(open) => !open && onClose()}
      title={
        story
          ? `${species}: met ${story.encounters.length === 1 ? "once" : `${story.encounters.length} times`}`
          : "Fish"
      }
      description={
        story
          ? story.marks
              .map(
                (mark) =>
                  `${KINDS[mark.kind]} ${markText(mark)} ${mark.placed_at ? `since ${formatDay(mark.placed_at)}` : "of another programme"}`,
              )
              .join(", ")
          : "Reading..."
      }
    >
      {error && <ErrorMessage failure={error} />}
      {story && (
        <Link
          to="/fish/$fish"
          params={{ fish }}
          className="mb-2 inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4"
        >
          The fish's page: life, map, tags
        </Link>
      )}
      {story && <FishLife story={story} onOpen={setOpened} />}
      {opened && <FishSheet capture={opened} onClose={() => setOpened(null)} />}
    </Sheet>
  );
}
