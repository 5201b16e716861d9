import { useId } from "react";

interface Props {
  label: string;
  /** Media types and endings, as a file input has them. */
  accept: string;
  /** On a tablet the camera opens at once. */
  camera?: boolean;
  onFile: (file: File) => void;
}

/** A button that asks for a file, as large as others and reached by the keyboard as well. */
export function FileButton({ label, accept, camera = false, onFile }: Props) {
  const id = useId();
  return (
    <label
      htmlFor={id}
      className="inline-flex min-h-[44px] cursor-pointer items-center rounded-sm border border-line bg-raised px-4 has-focus-visible:outline-3"
    >
      {label}
      <input
        id={id}
        type="file"
        accept={accept}
        capture={camera ? "environment" : undefined}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = ""; // the same file may be chosen again
        }}
      />
    </label>
  );
}
