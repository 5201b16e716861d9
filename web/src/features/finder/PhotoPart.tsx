import { useEffect, useId, useState } from "react";
import { Button } from "@/ui/Button";
import { smallerJpeg } from "@/ui/pictures/picture";
import { useWords } from "./words";

interface Props {
  photo: Blob | null;
  onPhoto: (photo: Blob | null) => void;
  onRefuse: () => void;
}

/** A photo of the legend or the fish, made smaller on the phone before it is sent. */
export function PhotoPart({ photo, onPhoto, onRefuse }: Props) {
  const { say } = useWords();
  const id = useId();
  const [working, setWorking] = useState(false);
  const [shown, setShown] = useState<string | null>(null);
  useEffect(() => {
    if (!photo) return setShown(null);
    const address = URL.createObjectURL(photo);
    setShown(address);
    return () => URL.revokeObjectURL(address);
  }, [photo]);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setWorking(true);
    try {
      onPhoto(await smallerJpeg(file));
    } catch {
      onRefuse(); // no picture: said at its place
    } finally {
      setWorking(false);
    }
  };
  return (
    <div className="mt-3">
      <input
        id={id}
        type="file"
        accept="image/*"
        className="peer sr-only"
        aria-label={say("photo-add")}
        onChange={({ target }) => {
          void take(target.files?.[0]);
          target.value = "";
        }}
      />
      {shown ? (
        <div className="flex items-start gap-3">
          <img src={shown} alt={say("photo")} className="max-h-40 max-w-[60%] border border-line" />
          <Button onClick={() => onPhoto(null)}>{say("photo-remove")}</Button>
        </div>
      ) : (
        <label
          htmlFor={id}
          className="inline-flex min-h-[44px] cursor-pointer items-center rounded-sm border border-line bg-raised px-3 peer-focus-visible:outline-3 peer-focus-visible:outline-ink"
        >
          {working ? say("photo-working") : say("photo-add")}
        </label>
      )}
      <p className="pt-1 text-sm text-muted">{say("photo-hint")}</p>
    </div>
  );
}
