import { Link, useNavigate } from "@tanstack/react-router";
import { type FormEvent, useDeferredValue, useState } from "react";
import type { Schemas } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { useMergeFish, useSplitFish, useTagsFound, useTakeBackFish } from "./queries";

type Story = Schemas["FishStory"];

/** Two records that are one fish are merged, one that is two is split; what was done is shown, with its way back. */
export function OneFish({ story }: { story: Story }) {
  const { may } = useHere();
  const [opened, setOpened] = useState<"merge" | "split" | null>(null);
  const close = () => setOpened(null);
  if (!story.joined.length && !may("correct_record")) return null;
  return (
    <section aria-label="One fish or two" className="mt-4">
      <h2 className="font-semibold">One fish or two</h2>
      <ul>
        {story.joined.map((each) => (
          <Joined key={each.fish} story={story} joined={each} mayUndo={may("correct_record")} />
        ))}
      </ul>
      {may("correct_record") && (
        <p className="flex flex-wrap gap-2 pt-1">
          <Button onClick={() => setOpened("merge")}>It is the same fish as another</Button>
          {story.encounters.length > 1 && <Button onClick={() => setOpened("split")}>It is two fish</Button>}
        </p>
      )}
      {opened === "merge" && <Merge story={story} onClose={close} />}
      {opened === "split" && <Split story={story} onClose={close} />}
    </section>
  );
}

interface JoinedProps {
  story: Story;
  joined: Story["joined"][number];
  mayUndo: boolean;
}

function Joined({ story, joined, mayUndo }: JoinedProps) {
  const [asked, setAsked] = useState(false);
  const [reason, setReason] = useState("");
  const undo = useTakeBackFish(joined.fish);
  const navigate = useNavigate();
  const send = (event: FormEvent) => {
    event.preventDefault();
    undo.mutate(
      { reason },
      {
        onSuccess: ({ id }) => {
          notify(joined.what === "merged" ? "They are two fish again." : "They are one fish again.");
          if (id !== story.id) void navigate({ to: "/fish/$fish", params: { fish: id } });
        },
      },
    );
  };
  return (
    <li className="border-t border-line py-1">
      <p className="flex flex-wrap items-center gap-x-3">
        <span>
          {joined.what === "merged"
            ? "Another record was merged into it"
            : joined.fish === story.id
              ? "It was split from another fish"
              : "Another fish was split from it"}{" "}
          on {formatDay(joined.at)} by {joined.person}: {joined.reason}.
        </span>
        {joined.what === "split" && (
          <Link
            to="/fish/$fish"
            params={{ fish: joined.other }}
            className="inline-flex min-h-[44px] items-center underline underline-offset-4"
          >
            Open it
          </Link>
        )}
        {mayUndo && !asked && <Button onClick={() => setAsked(true)}>Undo</Button>}
      </p>
      {asked && (
        <form onSubmit={send} className="flex flex-wrap items-end gap-2">
          <Field label="Reason" maxLength={200} value={reason} onChange={({ target }) => setReason(target.value)} />
          <Button type="submit" disabled={undo.isPending || reason.trim().length < 3}>
            {joined.what === "merged" ? "They are two fish" : "They are one fish"}
          </Button>
        </form>
      )}
      {undo.error && <ErrorMessage failure={undo.error} />}
    </li>
  );
}

interface SheetProps {
  story: Story;
  onClose: () => void;
}

function Merge({ story, onClose }: SheetProps) {
  const { membership } = useHere();
  const [number, setNumber] = useState("");
  const [other, setOther] = useState<{ fish: string; words: string } | null>(null);
  const [reason, setReason] = useState("");
  const { data: found } = useTagsFound(membership.programme, useDeferredValue(number));
  const merge = useMergeFish(story.id);
  const fits = found?.filter(({ fish }) => fish && fish !== story.id) ?? [];
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (!other) return;
    merge.mutate(
      { other: other.fish, reason },
      {
        onSuccess: () => {
          notify(`Merged with ${other.words}.`);
          onClose();
        },
      },
    );
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="The same fish as another"
      description="All meetings and tags of the other record become this fish's. It can be undone."
    >
      <form onSubmit={send} className="grid gap-3">
        <Field
          label="A tag of the other fish: its number or part of it"
          type="search"
          maxLength={40}
          value={number}
          onChange={({ target }) => {
            setNumber(target.value);
            setOther(null);
          }}
        />
        <div className="flex flex-wrap gap-2">
          {fits.slice(0, 8).map((tag) => {
            const words = `${KINDS[tag.kind]} ${markText(tag)}`;
            return (
              <Button
                key={`${tag.kind} ${tag.number}`}
                large
                look={other?.words === words ? "ink" : "plain"}
                aria-pressed={other?.words === words}
                onClick={() => setOther({ fish: tag.fish!, words })}
              >
                {words}
              </Button>
            );
          })}
          {number.length > 1 && found && !fits.length && (
            <p className="text-muted">No other fish carries such a tag.</p>
          )}
        </div>
        <Field
          label="How is it known"
          placeholder="both tags were read on it"
          maxLength={200}
          value={reason}
          onChange={({ target }) => setReason(target.value)}
        />
        {merge.error && <ErrorMessage failure={merge.error} />}
        <Button type="submit" look="ink" large disabled={!other || reason.trim().length < 3 || merge.isPending}>
          Merge
        </Button>
      </form>
    </Sheet>
  );
}

function Split({ story, onClose }: SheetProps) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [reason, setReason] = useState("");
  const split = useSplitFish(story.id);
  const navigate = useNavigate();
  const send = (event: FormEvent) => {
    event.preventDefault();
    split.mutate(
      { meetings: [...chosen], reason },
      {
        onSuccess: ({ id }) => {
          notify("Split: these meetings are another fish's.");
          onClose();
          void navigate({ to: "/fish/$fish", params: { fish: id } });
        },
      },
    );
  };
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title="It is two fish"
      description="Choose the meetings that were of the other one; tags placed at them go along. It can be undone."
    >
      <form onSubmit={send} className="grid gap-3">
        <fieldset className="grid gap-1">
          <legend className="font-semibold">Meetings of the other fish</legend>
          {story.encounters.map(({ source, at, length_mm, site, water }) => (
            <label key={source} className="flex min-h-[44px] items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={chosen.has(source)}
                onChange={({ target }) =>
                  setChosen(
                    new Set(target.checked ? [...chosen, source] : [...chosen].filter((each) => each !== source)),
                  )
                }
              />
              {[formatDay(at), length_mm && `${length_mm} mm`, site, water].filter(Boolean).join(", ")}
            </label>
          ))}
        </fieldset>
        <Field
          label="How is it known"
          placeholder="it was 40 mm shorter than before"
          maxLength={200}
          value={reason}
          onChange={({ target }) => setReason(target.value)}
        />
        {split.error && <ErrorMessage failure={split.error} />}
        <Button
          type="submit"
          look="ink"
          large
          disabled={
            !chosen.size || chosen.size === story.encounters.length || reason.trim().length < 3 || split.isPending
          }
        >
          Split
        </Button>
      </form>
    </Sheet>
  );
}
