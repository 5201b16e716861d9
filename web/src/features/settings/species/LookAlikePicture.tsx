import { useState } from "react";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { base64Of, smallerJpeg } from "@/ui/pictures/picture";

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
  const [problem, setProblem] = useState("");
  const take = async (file: File) => {
    try {
      onPicture(await base64Of(await smallerJpeg(file, LONGEST)));
      setProblem("");
    } catch {
      setProblem(`${file.name}: this browser cannot read it as a picture.`);
    }
  };
  return (
    <div className="col-span-3 flex flex-wrap items-center gap-3">
      {picture && <img src={`data:image/jpeg;base64,${picture}`} alt="What to look at" className="h-24" />}
      <FileButton
        label={picture ? "Another picture" : "A picture of what to look at"}
        accept="image/*"
        onFile={(file) => void take(file)}
      />
      {picture && <Button onClick={() => onPicture("")}>No picture</Button>}
      {(problem || error) && (
        <span role="alert" className="text-signal">
          {problem || error}
        </span>
      )}
    </div>
  );
}
