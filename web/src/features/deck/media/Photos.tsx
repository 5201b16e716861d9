import { useState } from "react";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { smallerJpeg } from "@/ui/pictures/picture";
import { Tick } from "@/ui/Tick";
import { formatTime } from "@/ui/words/format";
import type { DeckStore, DeckView } from "../document/deck-store";
import { addPhoto } from "../operations/photo-add";
import { takeOutPhoto } from "../operations/photo-edit";
import { whereNow } from "../runs/position";
import { type Photo, SHOWS, type Shows, sourceOf } from "./photos";

/** What photos of an outing show; all others are of a fish. */
const OF_OUTING: ReadonlySet<Shows> = new Set(["place", "person"]);

interface Props {
  store: DeckStore;
  view: DeckView;
  /** Of which fish; none: of the place. */
  capture: string | null;
  /** The outing can still be worked. */
  working: boolean;
}

/** Photos of a fish, or of the place: by the tablet's camera or from a file, kept at once and sent after everything else. */
export function Photos({ store, view, capture, working }: Props) {
  const [problem, setProblem] = useState("");
  const [here, setHere] = useState(false);
  const [gone, setGone] = useState<Photo[]>([]);
  const [who, setWho] = useState("");
  const photos: Photo[] = (view.document.photos ?? []).filter((each) => each.capture === capture);
  const shown = SHOWS.filter(([code]) => OF_OUTING.has(code) === (capture === null));
  const take = async (shows: Shows, file: File) => {
    setProblem("");
    try {
      const jpeg = await smallerJpeg(file);
      // a photo goes without where the position does not come
      const place = here ? await whereNow(10_000).catch(() => null) : null;
      const at = place ? { lat: place.lat, lon: place.lon } : {};
      const note = shows === "person" ? { note: who.trim() } : {};
      await addPhoto(store, { shows, jpeg, ...(capture ? { capture } : {}), ...note, ...at });
    } catch (failure) {
      setProblem(`${file.name}: not kept (${(failure as Error).message || "this browser cannot read it"}).`);
    }
  };
  return (
    <div className="grid gap-3">
      {working && (
        <div className="flex flex-wrap items-center gap-1.5">
          {shown.map(([code, word]) =>
            code === "person" && !who.trim() ? null : (
              <FileButton key={code} label={word} accept="image/*" camera onFile={(file) => void take(code, file)} />
            ),
          )}
          {capture === null && (
            <Field
              label="Person in the photo"
              hint="Name; the photo goes when they ask to be forgotten"
              value={who}
              maxLength={80}
              onChange={({ target }) => setWho(target.value)}
            />
          )}
          <Tick label="with the position" checked={here} onChange={setHere} />
        </div>
      )}
      {problem && (
        <p role="alert" className="text-signal">
          {problem}
        </p>
      )}
      {!photos.length && <p className="text-muted">No photo yet. What a camera writes into one is left out.</p>}
      <ul className="grid grid-cols-2 gap-3 sm:grid-cols-4" aria-label="Photos">
        {photos.map((photo) => (
          <li key={photo.id} className="border border-line bg-raised p-1">
            <a href={sourceOf(photo)} target="_blank" rel="noreferrer">
              <img
                src={sourceOf(photo, true)}
                alt={`${word(photo)}, ${formatTime(photo.device_time, view.document.outing.time_zone)}`}
                className="h-32 w-full object-cover"
              />
            </a>
            <div className="flex items-center gap-2 text-sm">
              <span className="flex-1">
                {word(photo)} {photo.note} {formatTime(photo.device_time, view.document.outing.time_zone)}
                {view.unsent.has(photo.id) && <span className="block text-muted">waits to be sent</span>}
              </span>
              {working && (
                <Button
                  onClick={() => {
                    void takeOutPhoto(store, photo, true);
                    setGone([...gone, photo]);
                  }}
                >
                  Delete
                </Button>
              )}
            </div>
          </li>
        ))}
      </ul>
      {gone.map((photo) => (
        <p key={photo.id} className="flex items-center gap-2">
          {word(photo)} {formatTime(photo.device_time, view.document.outing.time_zone)} was taken out.
          <Button
            onClick={() => {
              void takeOutPhoto(store, photo, false);
              setGone(gone.filter((each) => each !== photo));
            }}
          >
            Restore
          </Button>
        </p>
      ))}
    </div>
  );
}

const word = ({ shows }: Photo) => SHOWS.find(([code]) => code === shows)?.[1] ?? shows;
