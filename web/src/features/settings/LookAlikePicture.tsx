import { useId, useState } from "react";
import { Button } from "@/ui/Button";
import { smallerJpeg } from "@/ui/picture";

interface Props {
  /** JPEG as base64; empty: none. */
  picture: string;
  error: string | undefined;
  onPicture: (picture: string) => void;
}

/** Longest side, px: every tablet carries these pictures. */
const LONGEST = 480;

/** What to look at on the fish, from a file. */
export function LookAlikePicture({ picture, error, onPicture }: Props) {
  const id = useId();
  const [problem, setProblem] = useState("");
  const take = async (file: File) => {
    try {
      onPicture(await smallerJpeg(file, LONGEST));
      setProblem("");
    } catch {
      setProblem(`${file.name}: this browser cannot read it as a picture.`);
    }
  };
  return (
    <div className="col-span-3 flex flex-wrap items-center gap-3">
      {picture && <img src={`data:image/jpeg;base64,${picture}`} alt="What to look at" className="h-24" />}
      <label
        htmlFor={id}
        className="inline-flex min-h-[44px] cursor-pointer items-center rounded-sm border border-line bg-raised px-3 has-focus-visible:outline-3"
      >
        {picture ? "Another picture" : "A picture of what to look at"}
        <input
          id={id}
          type="file"
          accept="image/*"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void take(file);
            event.target.value = "";
          }}
        />
      </label>
      {picture && <Button onClick={() => onPicture("")}>No picture</Button>}
      {(problem || error) && (
        <span role="alert" className="text-signal">
          {problem || error}
        </span>
      )}
    </div>
  );
}
