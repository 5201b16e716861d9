import { useState } from "react";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { notify } from "@/ui/Notice";
import { localPicture } from "@/ui/pictures/local-picture";
import { smallerJpeg } from "@/ui/pictures/picture";
import type { KitStore } from "./kit-store";
import { addCardPhoto } from "./operations/card-photo-add";
import { deleteCardPhoto } from "./operations/card-photo-delete";
import type { Card } from "./scope";

interface Props {
  store: KitStore;
  card: Card;
  unsent: ReadonlySet<string>;
}

/** As the server has it: more are refused. */
const MOST = 6;

/** Photos of one card: taken by the phone's camera or chosen, kept at once, sent after everything else. */
export function CardPhotos({ store, card, unsent }: Props) {
  const [problem, setProblem] = useState("");
  const name = card.number_text || "without a tag";
  const waiting = card.waiting ?? [];
  const photos = [
    ...card.photos.map((id) => ({
      id,
      small: `/api/v1/card-photos/${id}.jpg?small=true`,
      large: `/api/v1/card-photos/${id}.jpg`,
    })),
    ...waiting.flatMap(({ id, jpeg }) => {
      if (!jpeg) return [];
      const here = localPicture(id, jpeg);
      return [{ id, small: here, large: here }];
    }),
  ];
  const take = async (file: File) => {
    setProblem("");
    try {
      await addCardPhoto(store, card.id, await smallerJpeg(file));
    } catch (failure) {
      setProblem(`${file.name}: not kept (${(failure as Error).message || "this browser cannot read it"}).`);
    }
  };
  const remove = (photo: string) => {
    deleteCardPhoto(store, card, photo);
    notify("Photo deleted.", () => deleteCardPhoto(store, card, photo, false));
  };
  return (
    <div className="grid gap-2">
      {photos.length > 0 && (
        <ul className="grid grid-cols-3 gap-2" aria-label={`Photos of card ${name}`}>
          {photos.map(({ id, small, large }, place) => (
            <li key={id} className="border border-line bg-raised p-1">
              <a href={large} target="_blank" rel="noreferrer">
                <img src={small} alt={`Number ${place + 1}, card ${name}`} className="h-24 w-full object-cover" />
              </a>
              {unsent.has(id) && <p className="text-sm text-muted">not sent yet</p>}
              <Button
                className="w-full"
                aria-label={`Delete photo ${place + 1} of card ${name}`}
                onClick={() => remove(id)}
              >
                Delete
              </Button>
            </li>
          ))}
        </ul>
      )}
      {photos.length < MOST && (
        <FileButton label={`Add photo to card ${name}`} accept="image/*" camera onFile={(file) => void take(file)} />
      )}
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
    </div>
  );
}
